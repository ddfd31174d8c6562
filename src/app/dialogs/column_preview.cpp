#include "dialogs/column_preview.h"

#include "base/length_unit.h"
#include "base/text.h"
#include "dialogs/table_memory.h"
#include "style/theme.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace fox::app {

namespace {

QString text(std::string_view s) { return QString::fromUtf8(s.data(), qsizetype(s.size())); }

/// Those that have a unit of length.
constexpr std::string_view kPointLengths[] = {"easting", "northing", "level", "depth"};

constexpr int kRoleRow = 0, kUnitRow = 1, kFirstRow = 2; ///< of the table

} // namespace

/// What a column of points can be: its name as the readers know it, and in words. The first is none of these.
struct ColumnPreview::PointRole {
    const char* name;
    const char* words;
};

std::span<const ColumnPreview::PointRole> ColumnPreview::pointRoles() const {
    static constexpr PointRole kSurvey[] = {{"", "not used"},         {"point", "point number"}, {"easting", "easting"},
                                            {"northing", "northing"}, {"level", "level"},        {"code", "code"}};
    static constexpr PointRole kContacts[] = {{"", "not used"},   {"easting", "easting"}, {"northing", "northing"},
                                              {"level", "level"}, {"unit", "unit"},       {"hole", "hole"},
                                              {"depth", "depth"}};
    static constexpr PointRole kValues[] = {{"", "not used"},         {"point", "point number"}, {"easting", "easting"},
                                            {"northing", "northing"}, {"level", "level"},        {"value", "value"}};
    switch (m_rows) {
    case Rows::OfHoles: break;
    case Rows::Survey: return kSurvey;
    case Rows::Contacts: return kContacts;
    case Rows::Values: return kValues;
    }
    return {};
}

std::vector<std::vector<std::string>> ColumnPreview::usualOrders() const {
    const auto columns = m_shown.sheets.front().columns.size();
    switch (m_rows) {
    case Rows::OfHoles: break;
    case Rows::Survey: return usualSurveyOrders(columns);
    case Rows::Contacts: return usualContactOrders(columns);
    case Rows::Values: return usualValueOrders(columns);
    }
    return {};
}

ColumnPreview::ColumnPreview(QWidget* parent)
    : QWidget(parent),
      m_orders(new QWidget(this)),
      m_orderLines(new QGridLayout(m_orders)),
      m_sheet(new QComboBox(this)),
      m_table(new QTableWidget(this)) {
    m_orders->setObjectName("columnOrders");
    m_orderLines->setContentsMargins(0, 0, 0, 0);
    m_sheet->setObjectName("previewSheet");
    m_sheet->setToolTip(tr("Which sheet is shown below"));
    m_table->setObjectName("importPreview");
    m_table->setAccessibleName(tr("The first rows, with what each column means"));
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_orders);
    layout->addWidget(m_sheet, 0, Qt::AlignLeft);
    layout->addWidget(m_table, 1);
    connect(m_sheet, &QComboBox::activated, this, &ColumnPreview::showSheet);
}

void ColumnPreview::show(const ImportPreview& u) {
    m_shown.sheets = u.sheets;
    m_shown.file.settings = u.file.settings;
    m_shown.guess = u.asksForOrder() ? u.guess : std::nullopt;
    m_rows = u.file.settings.as == SourceSettings::As::Contacts ? Rows::Contacts
             : u.file.settings.as == SourceSettings::As::Values ? Rows::Values
             : u.survey || u.asksForOrder()                     ? Rows::Survey
                                                                : Rows::OfHoles;
    setVisible(!u.sheets.empty());
    const int was = std::max(0, m_sheet->currentIndex());
    m_sheet->clear();
    for (const auto& s : u.sheets) m_sheet->addItem(text(s.name));
    m_sheet->setVisible(u.sheets.size() > 1);
    if (u.sheets.empty()) return;
    m_sheet->setCurrentIndex(std::min(was, int(u.sheets.size()) - 1));
    showOrders();
    showSheet();
}

/// A button an order; the one that is chosen is pressed.
void ColumnPreview::showOrders() {
    while (auto* item = m_orderLines->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    auto orders = usualOrders();
    if (m_shown.guess) // it is asked
        if (const auto last = rememberedOrder(m_shown.sheets.front().columns.size())) {
            std::erase(orders, *last);
            orders.insert(orders.begin(), *last);
        }
    const bool first = m_shown.guess && rememberedOrder(m_shown.sheets.front().columns.size());
    m_orders->setVisible(!orders.empty());
    m_orderLines->addWidget(
        new QLabel(first ? tr("Order of the columns (as last time first)") : tr("Order of the columns"), m_orders), 0, 0);
    constexpr int kInRow = 3; // more would make the sheet wider than small screens
    int n = 0;
    for (const auto& columns : orders) {
        QStringList names;
        for (const auto& c : columns)
            if (!c.empty()) names << tr(c.c_str());
        auto words = names.join(", ");
        words[0] = words[0].toUpper();
        auto* button = new QPushButton(words, m_orders);
        button->setObjectName("order_" + names.join("_"));
        button->setCheckable(true);
        button->setAutoDefault(false);
        button->setChecked(columns == m_shown.file.settings.columns);
        button->setToolTip(tr("The columns stand in this order"));
        connect(button, &QPushButton::clicked, this, [this, columns] { emit orderChosen(columns); });
        m_orderLines->addWidget(button, n / kInRow, 1 + n % kInRow);
        ++n;
    }
    m_orderLines->setColumnStretch(kInRow + 1, 1);
}

void ColumnPreview::showSheet() {
    const auto& sheet = m_shown.sheets[std::size_t(m_sheet->currentIndex())];
    const auto& settings = m_shown.file.settings;
    m_table->clear();
    m_table->setColumnCount(int(sheet.columns.size()));
    showRows(sheet);
    QStringList roles;
    const auto points = pointRoles();
    for (const auto& role : points) roles << tr(role.words);
    if (points.empty())
        for (int r = 0; r < kColumnRoles; ++r) roles << QString::fromUtf8(fox::words(ColumnRole(r)));
    const auto mapping = settings.mappings.find(sheet.name);
    for (std::size_t c = 0; c < sheet.columns.size(); ++c) {
        const int role = roleOf(sheet, c);
        const auto column = text(sheet.columns[c]);
        m_table->setHorizontalHeaderItem(int(c), new QTableWidgetItem(column));
        m_table->setCellWidget(kRoleRow, int(c), roleBox(roles, role, column));
        m_table->setColumnWidth(int(c), 140);
        const bool length = points.empty()
                                ? isLength(ColumnRole(role))
                                : std::ranges::count(kPointLengths, std::string_view(points[std::size_t(role)].name)) > 0;
        if (!length) continue;
        const bool given = points.empty() && mapping != settings.mappings.end() && c < mapping->second.units.size();
        m_table->setCellWidget(kUnitRow, int(c),
                               unitBox(column, !points.empty() ? headingWithUnit(sheet.columns[c]).unit
                                               : given         ? std::string_view(mapping->second.units[c])
                                                               : std::string_view()));
    }
}

/// The name of the role of a column of points; empty: it has none.
std::string_view ColumnPreview::pointRoleOf(const Table& sheet, std::size_t c) const {
    using Named = std::pair<std::optional<std::size_t>, std::string_view>;
    const auto among = [c](std::initializer_list<Named> all) {
        for (const auto& [at, name] : all)
            if (at == c) return name;
        return std::string_view();
    };
    if (m_rows == Rows::Contacts) {
        const auto named = contactColumns(sheet);
        return among({{named.easting, "easting"},
                      {named.northing, "northing"},
                      {named.level, "level"},
                      {named.unit, "unit"},
                      {named.hole, "hole"},
                      {named.depth, "depth"}});
    }
    const auto named = surveyColumns(sheet);
    auto role = among({{named.easting, "easting"}, {named.northing, "northing"}, {named.level, "level"}, {named.name, "point"}});
    if (m_rows == Rows::Values) {
        if (role.empty() && std::ranges::count(valueColumns(sheet).values, c) > 0) role = "value";
        return role;
    }
    if (named.code == c) role = "code";
    // what can be told, before which of the others is the easting has been answered
    if (m_shown.guess && c < m_shown.guess->columns.size())
        for (const std::string_view told : {"point", "level", "code"})
            if (m_shown.guess->columns[c] == told) role = told;
    return role;
}

/// What a column is taken for, by its place in the list of roles.
int ColumnPreview::roleOf(const Table& sheet, std::size_t c) const {
    if (const auto roles = pointRoles(); !roles.empty()) {
        const auto name = pointRoleOf(sheet, c);
        const auto at = std::ranges::find(roles, name, [](const PointRole& r) { return std::string_view(r.name); });
        return at == roles.end() ? 0 : int(at - roles.begin());
    }
    const auto mapping = m_shown.file.settings.mappings.find(sheet.name);
    const bool known = mapping != m_shown.file.settings.mappings.end() && c < mapping->second.roles.size();
    return known ? int(mapping->second.roles[c]) : 0;
}

QComboBox* ColumnPreview::unitBox(const QString& column, std::string_view chosen) {
    auto* box = new QComboBox;
    if (m_rows != Rows::OfHoles) box->addItem(tr("the file's unit"), QString());
    int at = 0;
    for (const auto& unit : lengthUnits()) {
        if (const auto* known = lengthUnitNamed(chosen); known == &unit) at = box->count();
        box->addItem(tr(unit.words), unit.key);
    }
    box->setCurrentIndex(at);
    box->setAccessibleName(tr("Unit of %1").arg(column));
    connect(box, &QComboBox::activated, this, &ColumnPreview::rolesChanged);
    return box;
}

std::string ColumnPreview::unitOf(int column) const {
    const auto* box = static_cast<QComboBox*>(m_table->cellWidget(kUnitRow, column));
    return box ? box->currentData().toString().toStdString() : std::string();
}

void ColumnPreview::showRows(const Table& sheet) {
    constexpr int kShown = 50;
    m_table->setRowCount(std::min<int>(kShown, int(sheet.rows.size())) + kFirstRow);
    for (int r = kFirstRow; r < m_table->rowCount(); ++r)
        for (int c = 0; c < m_table->columnCount(); ++c)
            m_table->setItem(r, c, new QTableWidgetItem(text(sheet.cell(std::size_t(r - kFirstRow), std::size_t(c)))));
}

QComboBox* ColumnPreview::roleBox(const QStringList& roles, int chosen, const QString& column) {
    auto* box = new QComboBox;
    box->addItems(roles);
    box->setCurrentIndex(chosen);
    box->setAccessibleName(tr("What %1 means").arg(column));
    connect(box, &QComboBox::activated, this, &ColumnPreview::rolesChanged);
    return box;
}

std::vector<std::string> ColumnPreview::order() const {
    const auto roles = pointRoles();
    const auto& columns = m_shown.sheets.front().columns;
    std::vector<std::string> out;
    for (int c = 0; c < m_table->columnCount(); ++c) {
        const auto role = std::size_t(static_cast<QComboBox*>(m_table->cellWidget(kRoleRow, c))->currentIndex());
        std::string name = roles[role].name;
        // a column of values is called by what was measured
        if (name == "value" && !columns[std::size_t(c)].empty() && !parseNumber(columns[std::size_t(c)])) {
            out.push_back(columns[std::size_t(c)]);
            continue;
        }
        const auto unit = name.empty() ? std::string() : unitOf(c);
        out.push_back(unit.empty() ? name : name + " (" + unit + ")");
    }
    return out;
}

void ColumnPreview::rolesChanged() {
    if (m_rows != Rows::OfHoles) {
        const auto columns = order();
        const auto has = [&](const char* name) {
            return std::ranges::any_of(columns, [&](const std::string& c) { return headingWithUnit(c).name == name; });
        };
        const bool inSpace = has("easting") && has("northing") && has("level"), inHoles = has("hole") && has("depth");
        const bool finished = m_rows == Rows::Contacts ? has("unit") && (inSpace || inHoles) : inSpace;
        if (finished) emit orderChosen(columns);
        return;
    }
    const auto& sheet = m_shown.sheets[std::size_t(m_sheet->currentIndex())];
    auto mapping = m_shown.file.settings.mappings[sheet.name];
    mapping.columns = sheet.columns;
    mapping.roles.resize(sheet.columns.size());
    mapping.units.resize(sheet.columns.size());
    for (int c = 0; c < m_table->columnCount(); ++c)
        mapping.roles[std::size_t(c)] = ColumnRole(static_cast<QComboBox*>(m_table->cellWidget(kRoleRow, c))->currentIndex()),
        mapping.units[std::size_t(c)] = unitOf(c);
    emit mappingChanged(sheet.name, mapping);
}

} // namespace fox::app
