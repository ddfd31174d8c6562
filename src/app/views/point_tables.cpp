#include "views/point_tables.h"

#include "project/contact_edits.h"
#include "project/value_edits.h"
#include "style/theme.h"
#include "style/words.h"

namespace fox::app {

namespace {

/// @throws Error if it is neither yes nor no
bool typedYes(const QString& text) {
    const auto typed = text.trimmed();
    if (typed.compare(TableContent::tr("yes"), Qt::CaseInsensitive) == 0) return true;
    if (typed.compare(TableContent::tr("no"), Qt::CaseInsensitive) == 0) return false;
    throw Error("Type yes or no: whether the row is used.");
}

class ContactsContent : public TableContent {
public:
    explicit ContactsContent(std::shared_ptr<const ProductSet> products) : m_products(std::move(products)) {
        m_columns = {{tr("Unit"), false, false, tr("as its file calls it"), 100},
                     {tr("On its"), false, false, {}, 60},
                     {tr("Easting"), true, false, tr("metres"), 100},
                     {tr("Northing"), true, false, tr("metres"), 100},
                     {tr("Level"), true, false, tr("metres"), 80},
                     {tr("Hole"), false, false, tr("if it was found in one"), 80},
                     {tr("Depth"), true, false, tr("metres, in that hole"), 70},
                     {tr("Used"), false, true, tr("for surfaces: yes or no"), 60},
                     {tr("File"), false, false, {}, 150},
                     {tr("Line"), true, false, {}, 60}};
        for (const auto& source : *m_products->project.contactPoints)
            for (const auto& point : source.points) m_rows.push_back({&source, &point});
    }
    QString name() const override { return tr("contacts not in logs"); }
    int rows() const override { return int(m_rows.size()); }
    QString text(int row, int c) const override {
        const auto& [source, point] = m_rows[std::size_t(row)];
        switch (c) {
        case 0: return qt(point->unit);
        case 1: return QString::fromUtf8(fox::words(source->surface));
        case 5: return qt(point->hole);
        case 7: return source->used && !point->excluded ? tr("yes") : tr("no");
        case 8: return qt(source->file);
        case 9: return QString::number(point->line);
        default: break;
        }
        const auto value = number(row, c);
        return value ? QString::number(*value, 'f', 2) : QString();
    }
    std::optional<double> number(int row, int c) const override {
        const auto& point = *m_rows[std::size_t(row)].point;
        if (c == 9) return point.line;
        if (c == 6) return point.hole.empty() ? std::nullopt : std::optional(point.depth.metres);
        if (!point.hole.empty()) return {};
        return c == 2 ? point.place.x : c == 3 ? point.place.y : point.place.z;
    }
    QColor colour(int row, int) const override { return m_rows[std::size_t(row)].point->excluded ? colour::muted : QColor(); }
    const Unit* swatch(int row, int c) const override {
        if (c != 0) return nullptr;
        const auto& sequence = *m_products->project.sequence;
        const auto at = sequence.index(m_rows[std::size_t(row)].point->unit);
        return at ? &sequence.units[*at] : nullptr;
    }
    QString hole(int row) const override { return qt(m_rows[std::size_t(row)].point->hole); }
    Edit edit(const std::vector<Typed>& cells) const override {
        struct Value {
            std::string file;
            ContactPoint point;
            bool excluded;
        };
        std::vector<Value> values;
        for (const auto& cell : cells) {
            const auto& [source, point] = m_rows[std::size_t(cell.row)];
            values.push_back({source->file, *point, !typedYes(cell.text)});
        }
        return [values](const Project& p) {
            Edited all{p, ""};
            for (const auto& v : values) all = setContactExcluded(all.project, v.file, v.point, v.excluded);
            if (values.size() > 1) all.label = "Set whether " + counted(values.size(), "contact").toStdString() + " are used";
            return all;
        };
    }

private:
    struct Row {
        const ContactSource* source;
        const ContactPoint* point;
    };
    std::shared_ptr<const ProductSet> m_products;
    std::vector<Row> m_rows; ///< into the project's
};

class ValuesContent : public TableContent {
public:
    explicit ValuesContent(std::shared_ptr<const ProductSet> products) : m_products(std::move(products)) {
        m_columns = {{tr("Value of"), false, false, tr("as the heading of its column says"), 140},
                     {tr("Value"), true, false, tr("< stands before a value below detection"), 80},
                     {tr("Unit"), false, false, {}, 70},
                     {tr("Easting"), true, false, tr("metres"), 100},
                     {tr("Northing"), true, false, tr("metres"), 100},
                     {tr("Level"), true, false, tr("metres"), 80},
                     {tr("Used"), false, true, tr("yes or no"), 60},
                     {tr("File"), false, false, {}, 150},
                     {tr("Line"), true, false, {}, 60}};
        for (const auto& source : *m_products->project.valuePoints)
            for (const auto& point : source.points) m_rows.push_back({&source, &point});
    }
    QString name() const override { return tr("values at points"); }
    int rows() const override { return int(m_rows.size()); }
    QString text(int row, int c) const override {
        const auto& [source, point] = m_rows[std::size_t(row)];
        switch (c) {
        case 0: return qt(source->quantity);
        case 1: return qt(written(*point));
        case 2: return qt(source->unit);
        case 6: return source->used && !point->excluded ? tr("yes") : tr("no");
        case 7: return qt(source->file);
        case 8: return QString::number(point->line);
        default: return QString::number(*number(row, c), 'f', 2);
        }
    }
    std::optional<double> number(int row, int c) const override {
        const auto& point = *m_rows[std::size_t(row)].point;
        switch (c) {
        case 1: return point.value;
        case 3: return point.place.x;
        case 4: return point.place.y;
        case 5: return point.place.z;
        default: return point.line;
        }
    }
    QColor colour(int row, int) const override { return m_rows[std::size_t(row)].point->excluded ? colour::muted : QColor(); }
    Edit edit(const std::vector<Typed>& cells) const override {
        struct Value {
            std::string file, quantity;
            ValuePoint point;
            bool excluded;
        };
        std::vector<Value> values;
        for (const auto& cell : cells) {
            const auto& [source, point] = m_rows[std::size_t(cell.row)];
            values.push_back({source->file, source->quantity, *point, !typedYes(cell.text)});
        }
        return [values](const Project& p) {
            Edited all{p, ""};
            for (const auto& v : values) all = setValueExcluded(all.project, v.file, v.quantity, v.point, v.excluded);
            if (values.size() > 1)
                all.label = "Set whether " + counted(qint64(values.size()), "value").toStdString() + " are used";
            return all;
        };
    }

private:
    struct Row {
        const ValueSource* source;
        const ValuePoint* point;
    };
    std::shared_ptr<const ProductSet> m_products;
    std::vector<Row> m_rows; ///< into the project's
};

} // namespace

TableContentPtr contactsTable(std::shared_ptr<const ProductSet> products) {
    return std::make_shared<ContactsContent>(std::move(products));
}

TableContentPtr valuesTable(std::shared_ptr<const ProductSet> products) {
    return std::make_shared<ValuesContent>(std::move(products));
}

} // namespace fox::app
