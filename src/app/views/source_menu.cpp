#include "views/source_menu.h"

#include "base/errors.h"
#include "base/files.h"
#include "formats/table.h"
#include "ground/survey.h"
#include "style/words.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QSettings>
#include <fmt/format.h>

namespace fox::app {

namespace {

QString say(const char* words) { return QCoreApplication::translate("SourceMenu", words); }

/// Which column of a table of points, and how its numbers are interpolated.
class PointsDialog : public QDialog {
public:
    PointsDialog(const Table& table, bool isLevel, QWidget* parent) : QDialog(parent) {
        setObjectName("pointsSource");
        setWindowTitle(say("Points of a table"));
        auto* form = new QFormLayout(this);
        m_column = new QComboBox(this);
        m_column->setObjectName("pointsColumn");
        const auto places = surveyColumns(table);
        for (std::size_t c = 0; c < table.columns.size(); ++c) {
            bool hasNumbers = false;
            for (std::size_t r = 0; r < table.rows.size() && !hasNumbers; ++r) hasNumbers = table.number(r, c).has_value();
            if (hasNumbers && c != places.easting && c != places.northing) m_column->addItem(qt(table.columns[c]));
        }
        if (isLevel && places.level) m_column->setCurrentIndex(std::max(0, m_column->findText(qt(table.columns[*places.level]))));
        m_method = new QComboBox(this);
        m_method->setObjectName("pointsMethod");
        for (const auto m : allMethods()) m_method->addItem(qt(fox::words(m)), int(m));
        m_method->setCurrentIndex(std::max(0, m_method->findData(int(Method::Kriging))));
        m_logarithms = new QCheckBox(say("the logarithms of the values are interpolated"), this);
        m_logarithms->setObjectName("pointsLogarithms");
        m_logarithms->setToolTip(say("Sensible for what ranges over powers of ten, such as hydraulic conductivity"));
        m_logarithms->setChecked(!isLevel && m_column->currentText().startsWith('k', Qt::CaseInsensitive));
        form->addRow(say("Column"), m_column);
        form->addRow(say("Method"), m_method);
        if (!isLevel) form->addRow({}, m_logarithms);
        m_logarithms->setVisible(!isLevel);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
        form->addRow(buttons);
        connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    }
    bool hasColumn() const { return m_column->count() > 0; }
    FieldSource source(const QString& file) const {
        FieldSource out{FieldSource::From::Points, 0, file.toStdString(), m_column->currentText().toStdString()};
        out.settings.method = Method(m_method->currentData().toInt());
        out.logarithmic = m_logarithms->isChecked();
        return out;
    }

private:
    QComboBox *m_column, *m_method;
    QCheckBox* m_logarithms;
};

QString askSourceFile(QWidget* parent, const QString& title, const QString& kinds) {
    const auto file = QFileDialog::getOpenFileName(parent, title, QSettings().value("folderOf/sources").toString(),
                                                   kinds + say(";;All files (*)"));
    if (!file.isEmpty()) QSettings().setValue("folderOf/sources", QFileInfo(file).absolutePath());
    return file;
}

std::optional<FieldSource> askPoints(QWidget* parent, bool isLevel) {
    const auto file = askSourceFile(parent, say("Table of points"), say("Tables (*.csv *.txt *.tsv *.xyz *.dat)"));
    if (file.isEmpty()) return {};
    const auto table = readTable(readBytes(file.toStdString()), file.toStdString());
    const auto places = surveyColumns(table);
    if (!places.easting || !places.northing)
        throw Error(fmt::format("{} has no columns of eastings and northings; its columns are: {}.", file.toStdString(),
                                fmt::join(table.columns, ", ")));
    PointsDialog dialog(table, isLevel, parent);
    if (!dialog.hasColumn()) throw Error(fmt::format("{} has no column of numbers beside its places.", file.toStdString()));
    if (dialog.exec() != QDialog::Accepted) return {};
    return dialog.source(file);
}

std::optional<double> askNumber(QWidget* parent, const QString& what) {
    bool ok = false;
    const auto typed = QInputDialog::getText(parent, what, say("A number, such as 1e-9"), QLineEdit::Normal, {}, &ok);
    if (!ok || typed.trimmed().isEmpty()) return {};
    const auto number = typedNumber(typed);
    if (!number) throw Error(fmt::format("\"{}\" is not a number.", typed.toStdString()));
    return number;
}

} // namespace

void chooseSource(QWidget* parent, const ProductSet& products, const SourceAsked& asked,
                  const std::function<void(std::optional<FieldSource>)>& take,
                  const std::function<void(const QString&)>& failed) {
    using From = FieldSource::From;
    auto* menu = new QMenu(parent);
    menu->setObjectName("sourceMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const bool isLevel = asked.value.empty();
    const auto& project = products.project;
    // what is asked may fail; then nothing changes
    const auto offer = [&](QMenu* to, const QString& words, const std::function<std::optional<FieldSource>()>& ask) {
        to->addAction(words, parent, [take, failed, ask] {
            try {
                if (const auto source = ask()) take(source);
            } catch (const std::exception& e) {
                failed(qt(e.what()));
            }
        });
    };
    const auto fixed = [](FieldSource source) { return [source] { return std::optional(source); }; };
    if (asked.canBeNone) menu->addAction(isLevel ? say("The base of its units") : say("None"), parent, [take] { take({}); });
    if (!isLevel && std::ranges::count(standardUnitValues(), asked.value, &UnitValueKind::key) > 0)
        offer(menu, say("From the units"), fixed({From::Units, 0, ""}));
    if (isLevel) {
        offer(menu, say("The ground"), fixed({From::Ground, 0, ""}));
        auto* bases = menu->addMenu(say("Base of a unit"));
        for (const auto& u : project.sequence->units)
            offer(bases, qt(u.name.empty() ? u.code : u.code + " " + u.name), fixed({From::Base, 0, u.code}));
        bases->setEnabled(!project.sequence->units.empty());
    }
    const auto number = isLevel ? say("Level, m") : say("Value of all cells");
    offer(menu, isLevel ? say("A level…") : say("A number…"), [parent, number]() -> std::optional<FieldSource> {
        const auto typed = askNumber(parent, number);
        if (!typed) return {};
        return FieldSource{From::Number, *typed, ""};
    });
    for (const auto& w : *project.waterSurfaces)
        offer(menu, say("Water surface %1").arg(qt(w.name)), fixed({From::Water, 0, w.name}));
    for (const auto& s : *project.namedSurfaces)
        offer(menu, say("Surface %1").arg(qt(s.name)), fixed({From::Surface, 0, s.name}));
    offer(menu, say("A grid from a file…"), [parent]() -> std::optional<FieldSource> {
        const auto file = askSourceFile(parent, say("Grid"), say("Grids (*.tif *.tiff *.asc *.xyz *.gpkg *.nc)"));
        if (file.isEmpty()) return {};
        return FieldSource{From::Grid, 0, file.toStdString()};
    });
    offer(menu, say("Points of a table…"), [parent, isLevel] { return askPoints(parent, isLevel); });
    if (!isLevel && asked.line)
        offer(menu, say("Along %1…").arg(asked.line->first), [parent, line = asked.line->second]() -> std::optional<FieldSource> {
            const auto typed = askNumber(parent, say("Value along the line"));
            if (!typed) return {};
            FieldSource out{From::Line, 0, ""};
            for (const auto p : line) out.line.push_back({p.x, p.y, *typed});
            return out;
        });
    menu->popup(QCursor::pos());
}

QString sourceInWords(const FieldSource& source) {
    using From = FieldSource::From;
    if (source.from == From::Number) return QString::number(source.number);
    if (source.from == From::Line) return say("along a line");
    if (source.name.empty()) return qt(fox::words(source.from));
    const auto file = qt(std::filesystem::path(source.name).filename().string());
    return source.column.empty() ? file : say("%1: %2").arg(file, qt(source.column));
}

} // namespace fox::app
