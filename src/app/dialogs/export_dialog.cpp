#include "dialogs/export_dialog.h"

#include "base/errors.h"
#include "project/json.h"
#include "style/theme.h"
#include "views/ask_file.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPointer>
#include <QPushButton>
#include <QSettings>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

const char* formatWords(const std::string& as) {
    static const std::map<std::string, const char*> kWords{{"tif", "GeoTIFF grid"},
                                                           {"asc", "ASCII grid"},
                                                           {"xyz", "XYZ text"},
                                                           {"gpkg", "GeoPackage"},
                                                           {"landxml", "LandXML 1.2 triangles"},
                                                           {"dxf", "DXF"},
                                                           {"obj", "OBJ triangles"},
                                                           {"ply", "PLY triangles"},
                                                           {"vtu", "VTU cells"},
                                                           {"glb", "glTF bodies, holes, ground"},
                                                           {"ifc", "IFC 4.3"},
                                                           {"html", "Page for any browser"},
                                                           {"json", "JSON"},
                                                           {"pdf", "PDF page"},
                                                           {"svg", "SVG picture"},
                                                           {"png", "PNG picture"},
                                                           {"csv", "CSV table"},
                                                           {"ags", "AGS 4.1"}};
    return kWords.at(as);
}

} // namespace

ExportDialog::ExportDialog(Ask ask, QWidget* parent)
    : QDialog(parent),
      m_ask(std::move(ask)),
      m_kinds(new QTreeWidget(this)),
      m_mapRow(new QWidget(this)),
      m_gridRow(buildGridRow()),
      m_xyzRow(buildXyzRow()),
      m_patterns(new QCheckBox(tr("glTF with the signs of units' ground on the bodies"), this)),
      m_map(new QComboBox(this)),
      m_metres(new NumberBox(this)),
      m_folder(new QLineEdit(this)),
      m_result(new QPlainTextEdit(this)),
      m_go(new QPushButton(tr("Export"), this)),
      m_work(this, tr("Exporting")) {
    setObjectName("exportDialog");
    setWindowTitle(tr("Export"));
    setModal(true);
    resize(600, 660);
    m_map->setObjectName("exportMap");
    m_map->addItems({tr("at the ground"), tr("at a level"), tr("at a depth below ground")});
    m_metres->setRange(-10000, 10000);
    m_metres->setSuffix(tr(" m"));
    m_metres->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_metres->setEnabled(false);
    auto* mapRow = new QHBoxLayout(m_mapRow);
    mapRow->setContentsMargins(0, 0, 0, 0);
    mapRow->addWidget(new QLabel(tr("Units of the geological map"), this));
    mapRow->addWidget(m_map, 1);
    mapRow->addWidget(m_metres);
    m_patterns->setObjectName("exportPatterns");
    m_patterns->setToolTip(tr("Off: the bodies have their unit's colour alone"));
    m_patterns->setChecked(QSettings().value("export/patterns", false).toBool());
    m_folder->setObjectName("exportFolder");
    auto* choose = new QPushButton(tr("Choose…"), this);
    auto* folderRow = new QHBoxLayout;
    folderRow->addWidget(new QLabel(tr("Into the folder"), this));
    folderRow->addWidget(m_folder, 1);
    folderRow->addWidget(choose);
    m_result->setObjectName("exportResult");
    m_result->setReadOnly(true);
    m_result->setPlaceholderText(tr("The files that were written are listed here."));
    m_result->setFixedHeight(110);
    m_go->setProperty("main", true);
    m_go->setObjectName("exportButton");
    m_go->setDefault(true);
    auto* close = new QPushButton(tr("Close"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(m_go);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(10);
    layout->addWidget(m_kinds, 1);
    layout->addWidget(m_mapRow);
    layout->addWidget(m_gridRow);
    layout->addWidget(m_xyzRow);
    layout->addWidget(m_patterns);
    layout->addLayout(folderRow);
    layout->addWidget(m_result);
    layout->addLayout(buttons);
    connect(choose, &QPushButton::clicked, this, &ExportDialog::chooseFolder);
    connect(m_folder, &QLineEdit::editingFinished, this, [this] { setFolder(m_folder->text()); });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_go, &QPushButton::clicked, this, &ExportDialog::write);
    connect(m_map, &QComboBox::currentIndexChanged, m_metres, [this](int i) { m_metres->setEnabled(i > 0); });
    connect(m_kinds, &QTreeWidget::itemChanged, this, &ExportDialog::choiceChanged);
    setFolder(QSettings().value("export/folder", QDir::homePath()).toString());
    fillKinds();
}

QWidget* ExportDialog::buildGridRow() {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(new QLabel(tr("Grids"), row));
    const QString names[] = {tr("west"), tr("south"), tr("east"), tr("north")};
    for (int i = 0; i < 4; ++i) {
        m_edges[i] = new QLineEdit(row);
        m_edges[i]->setObjectName("exportEdge_" + names[i]);
        m_edges[i]->setPlaceholderText(names[i]);
        m_edges[i]->setToolTip(tr("The %1 edge of the grids, metres; all four empty: the model's extent").arg(names[i]));
        m_edges[i]->setAccessibleName(m_edges[i]->toolTip());
        line->addWidget(m_edges[i], 1);
    }
    m_cell = new NumberBox(row);
    m_cell->setObjectName("exportCell");
    m_cell->setRange(0, 100000);
    m_cell->setDecimals(2);
    m_cell->setPrefix(tr("cells "));
    m_cell->setSuffix(tr(" m"));
    m_cell->setSpecialValueText(tr("the model's cells"));
    m_cell->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_cell->setToolTip(tr("Surfaces are evaluated anew at the middle of each cell"));
    line->addWidget(m_cell);
    return row;
}

QWidget* ExportDialog::buildXyzRow() {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    const QSettings settings;
    m_xyzHeader = new QCheckBox(tr("XYZ with a header"), row);
    m_xyzHeader->setObjectName("xyzHeader");
    m_xyzHeader->setChecked(settings.value("export/xyzHeader", false).toBool());
    m_xyzSeparator = new QComboBox(row);
    m_xyzSeparator->setObjectName("xyzSeparator");
    m_xyzSeparator->setToolTip(tr("What stands between the columns"));
    for (const auto& [words, sign] : {std::pair{tr("blank"), ' '}, {tr("comma"), ','}, {tr("semicolon"), ';'}, {tr("tab"), '\t'}})
        m_xyzSeparator->addItem(words, QChar(sign));
    m_xyzSeparator->setCurrentIndex(settings.value("export/xyzSeparator", 0).toInt());
    m_xyzNone = new QLineEdit(settings.value("export/xyzNone").toString(), row);
    m_xyzNone->setObjectName("xyzNone");
    m_xyzNone->setPlaceholderText(tr("no line for cells without a value"));
    m_xyzNone->setToolTip(tr("What is written for a cell without a value, such as -9999; empty: nothing, not even a line"));
    line->addWidget(m_xyzHeader);
    line->addWidget(m_xyzSeparator);
    line->addWidget(m_xyzNone, 1);
    return row;
}

std::optional<Frame> ExportDialog::typedFrame(const ProductSet& set) const {
    const bool all = std::ranges::all_of(m_edges, [](const QLineEdit* e) { return !e->text().trimmed().isEmpty(); });
    const bool none = std::ranges::all_of(m_edges, [](const QLineEdit* e) { return e->text().trimmed().isEmpty(); });
    if (!m_gridRow->isVisible() || (none && m_cell->value() == 0)) return {};
    if (!set.frame) throw Error("There is nothing to have an extent yet.");
    auto frame = *set.frame;
    if (!none && !all) throw Error("Give all four edges of the grids, or none.");
    if (all) {
        double* const edges[] = {&frame.xmin, &frame.ymin, &frame.xmax, &frame.ymax};
        for (int i = 0; i < 4; ++i) {
            const auto value = typedNumber(m_edges[i]->text());
            if (!value) throw Error(QString("\"%1\" is not a number.").arg(m_edges[i]->text()).toStdString());
            *edges[i] = *value;
        }
    }
    if (m_cell->value() > 0) frame.cell = m_cell->value();
    return siteFrameOf(toJson(frame)); // which says what can't be
}

void ExportDialog::fillKinds() {
    const QSignalBlocker quiet(m_kinds);
    m_kinds->setObjectName("exportKinds");
    m_kinds->setHeaderLabels({tr("What"), tr("As")});
    m_kinds->setRootIsDecorated(false);
    m_kinds->setUniformRowHeights(true);
    m_kinds->header()->setStretchLastSection(false);
    m_kinds->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_kinds->header()->setSectionResizeMode(1, QHeaderView::Fixed);
    m_kinds->header()->resizeSection(1, 200);
    const QSettings settings;
    const auto ticked = settings.value("export/ticked", QStringList{"ground"}).toStringList();
    for (const auto& kind : exportKinds()) {
        auto* item = new QTreeWidgetItem(m_kinds, {tr(kind.words)});
        item->setData(0, Qt::UserRole, kind.what);
        item->setCheckState(0, ticked.contains(kind.what) ? Qt::Checked : Qt::Unchecked);
        auto* as = new QComboBox(m_kinds);
        as->setObjectName(QString("as_%1").arg(kind.what));
        item->setSizeHint(0, QSize(0, 30)); // room between the choices
        as->setAccessibleName(tr("%1 as").arg(tr(kind.words)));
        for (const auto& format : kind.as) as->addItem(tr(formatWords(format)), QString::fromStdString(format));
        as->setCurrentIndex(std::max(0, as->findData(settings.value(QString("export/as/%1").arg(kind.what)))));
        m_kinds->setItemWidget(item, 1, as);
        connect(as, &QComboBox::currentIndexChanged, this, &ExportDialog::choiceChanged);
    }
    choiceChanged();
}

void ExportDialog::chooseFolder() {
    const auto to = QFileDialog::getExistingDirectory(this, tr("Folder for the files"), m_folder->text());
    if (!to.isEmpty()) setFolder(to);
}

void ExportDialog::setFolder(const QString& folder) {
    const auto typed = folder.trimmed();
    // where a relative name leads is shown before anything is written there
    m_folder->setText(typed.isEmpty() ? QDir::homePath() : QDir::cleanPath(QDir::home().absoluteFilePath(typed)));
}

std::vector<ExportDialog::Chosen> ExportDialog::chosen() const {
    std::vector<Chosen> out;
    for (int i = 0; i < m_kinds->topLevelItemCount(); ++i) {
        auto* item = m_kinds->topLevelItem(i);
        if (item->checkState(0) != Qt::Checked) continue;
        const auto* as = static_cast<QComboBox*>(m_kinds->itemWidget(item, 1));
        out.push_back({exportKinds()[std::size_t(i)], as->currentData().toString().toStdString()});
    }
    return out;
}

void ExportDialog::choiceChanged() {
    const auto all = chosen();
    m_go->setEnabled(settled() && !all.empty());
    m_go->setToolTip(all.empty() ? tr("Tick what shall be exported") : QString());
    m_gridRow->setVisible(std::ranges::any_of(all, [](const Chosen& c) { return c.kind.needs.has(ProductKind::Grids); }));
    m_xyzRow->setVisible(std::ranges::any_of(all, [](const Chosen& c) { return c.as == "xyz"; }));
    m_patterns->setVisible(std::ranges::any_of(all, [](const Chosen& c) { return c.as == "glb"; }));
    m_mapRow->setVisible(std::ranges::any_of(all, [](const Chosen& c) { return std::string_view(c.kind.what) == "map"; }));
}

void ExportDialog::write() {
    setFolder(m_folder->text());
    const auto all = chosen();
    QSettings settings;
    settings.setValue("export/folder", m_folder->text());
    QStringList ticked;
    Wanted needs;
    for (const auto& c : all) {
        ticked << c.kind.what;
        settings.setValue(QString("export/as/%1").arg(c.kind.what), QString::fromStdString(c.as));
        needs.add(c.kind.neededAs(c.as));
        if (c.isGrid()) needs.add({ProductKind::AllFindings});
    }
    settings.setValue("export/ticked", ticked);
    said(tr("Writing…"), false);
    m_waiting = true;
    choiceChanged();
    m_ask(needs, [self = QPointer(this)](std::shared_ptr<const ProductSet> products) {
        if (self) self->writeWith(std::move(products));
    });
}

void ExportDialog::writeWith(std::shared_ptr<const ProductSet> products) {
    m_waiting = false;
    if (!products) return said(tr("Nothing was written: the work was stopped. Press Export to try again."), true);
    ExportOptions options;
    const auto separator = m_xyzSeparator->currentData().toChar().toLatin1();
    options.xyz = {m_xyzHeader->isChecked(), separator, m_xyzNone->text().trimmed().toStdString()};
    QSettings settings;
    options.patterns = m_patterns->isChecked();
    settings.setValue("export/patterns", options.patterns);
    settings.setValue("export/xyzHeader", m_xyzHeader->isChecked());
    settings.setValue("export/xyzSeparator", m_xyzSeparator->currentIndex());
    settings.setValue("export/xyzNone", m_xyzNone->text().trimmed());
    try {
        options.frame = typedFrame(*products);
    } catch (const Error& e) {
        return said(tr("Nothing was written. %1").arg(QString::fromStdString(e.what())), true);
    }
    options.map = {MapSurface::Kind(m_map->currentIndex()), m_metres->value()};
    m_work.start(
        [products = std::move(products), all = chosen(), folder = m_folder->text().toStdString(),
         options](const Progress& progress) {
            auto out = std::make_shared<Prepared>();
            for (const auto& c : all) {
                progress.check();
                try {
                    out->files.take(prepareExport(*products, c.kind.what, c.as, folder, options));
                } catch (const Error& e) {
                    out->refused << QString("%1: %2").arg(tr(c.kind.words), QString::fromStdString(e.what()));
                }
            }
            // where grids end, if the ground goes on
            if (std::ranges::any_of(all, &Chosen::isGrid))
                for (const auto& f : *products->findings)
                    if (f.rule == "FC-EXTENT") out->notes << QString::fromStdString(f.message);
            return out;
        },
        [this](const std::shared_ptr<Prepared>& prepared) { finish(std::move(*prepared)); },
        [this](const QString& why) { said(why, true); });
}

void ExportDialog::finish(Prepared prepared) {
    const auto targets = prepared.files.targets();
    if (!mayReplace(targets, this)) return said(tr("Nothing was written, nothing was replaced."), false);
    QStringList words = prepared.refused;
    if (!targets.empty()) words << prepared.notes;
    try {
        prepared.files.commit();
    } catch (const Error& e) {
        return said(QString::fromStdString(e.what()), true);
    }
    if (!targets.empty()) words << tr("Written into %1:").arg(m_folder->text());
    for (const auto& target : targets) words << QString::fromStdString(target.filename().string());
    said(words.join("\n"), targets.empty());
}

void ExportDialog::said(const QString& words, bool isFault) {
    choiceChanged();
    m_result->setStyleSheet(isFault ? QString("color: %1;").arg(colour::red.name()) : QString());
    m_result->setPlainText(words);
}

} // namespace fox::app
