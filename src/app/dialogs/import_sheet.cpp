#include "dialogs/import_sheet.h"

#include "base/files.h"
#include "base/text.h"
#include "dialogs/ground_settings.h"
#include "dialogs/place_map.h"
#include "dialogs/table_memory.h"
#include "holes/hole_checks.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

QString text(const std::string& s) { return QString::fromStdString(s); }

QStringList changeWords(const std::vector<HoleChange>& changes) {
    int counts[4] = {};
    for (const auto& c : changes) ++counts[int(c.kind)];
    QStringList out;
    if (counts[0]) out << ImportSheet::tr("%1 new").arg(counts[0]);
    if (counts[1]) out << ImportSheet::tr("%1 changed").arg(counts[1]);
    if (counts[2]) out << ImportSheet::tr("%1 as they are in the project already").arg(counts[2]);
    if (counts[3]) out << ImportSheet::tr("%1 no longer in the file").arg(counts[3]);
    return out;
}

} // namespace

ImportSheet::ImportSheet(std::function<Project()> project, QWidget* parent)
    : QDialog(parent), m_project(std::move(project)), m_reading(this), m_importing(this) {
    build();
}

ImportSheet::ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent)
    : ImportSheet(std::move(project), parent) {
    m_paths.assign(paths.begin(), paths.end());
    next();
}

ImportSheet::ImportSheet(const PastedText& pasted, std::function<Project()> project, QWidget* parent)
    : ImportSheet(std::move(project), parent) {
    m_file = {"pasted.csv", "", SharedBytes(pasted.text.toStdString()), 0, {}, {}, ""};
    m_all->hide();
    m_skip->setText(tr("Skip"));
    readSource();
}

ImportSheet::~ImportSheet() = default;

void ImportSheet::build() {
    setObjectName("importSheet");
    setWindowTitle(tr("Import"));
    setModal(true);
    resize(980, 700);
    m_title = new QLabel(this);
    m_title->setStyleSheet("font-size: 16px; font-weight: 600;");
    m_facts = new QLabel(this);
    m_facts->setWordWrap(true);
    m_facts->setObjectName("importFacts");
    m_progressWords = new QLabel(this);
    m_progressWords->setProperty("muted", true);
    for (auto* label : {m_facts, m_progressWords}) // a long file name does not make the sheet wider
        label->setSizePolicy(QSizePolicy::Ignored, label->sizePolicy().verticalPolicy());
    m_progress = new QProgressBar(this);
    m_progress->setRange(0, 1000);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(8);
    m_stop = new QPushButton(tr("Stop"), this);
    m_stop->setObjectName("stopReading");
    auto* busy = new QHBoxLayout;
    busy->addWidget(m_progressWords, 1);
    busy->addWidget(m_progress, 2);
    busy->addWidget(m_stop);
    m_existing = new QComboBox(this);
    m_existing->setObjectName("existingChoice");
    m_existing->addItems({tr("holes that are there stay as they are"), tr("holes that are there take what the file says")});
    m_gone = new QCheckBox(tr("take out holes that are gone"), this);
    m_skip = new QPushButton(tr("Skip"), this);
    m_skip->setObjectName("skipButton");
    m_all = new QPushButton(this);
    m_all->setObjectName("importAllButton");
    m_all->setToolTip(tr("This file and the others as they are understood, without looking at each"));
    m_import = new QPushButton(tr("Import"), this);
    m_import->setProperty("main", true);
    m_import->setObjectName("importButton");
    m_import->setDefault(true);
    for (auto* other : {m_skip, m_all, m_stop})
        other->setAutoDefault(false); // Return is for the main button, wherever it is pressed
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_existing);
    buttons->addWidget(m_gone);
    buttons->addStretch(1);
    buttons->addWidget(m_skip);
    buttons->addWidget(m_all);
    buttons->addWidget(m_import);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(8);
    layout->addWidget(m_title);
    layout->addWidget(m_facts);
    layout->addLayout(busy);
    layout->addWidget(m_contents = buildContents(), 1);
    layout->addLayout(buttons);
    connect(m_import, &QPushButton::clicked, this, &ImportSheet::import);
    connect(m_all, &QPushButton::clicked, this, &ImportSheet::importAll);
    connect(m_skip, &QPushButton::clicked, this, &ImportSheet::next);
    connect(m_stop, &QPushButton::clicked, this, [this] {
        m_reading.stop();
        m_importing.stop();
    });
    connect(m_existing, &QComboBox::activated, this, &ImportSheet::showFacts);
}

QWidget* ImportSheet::buildContents() {
    auto* contents = new QWidget(this);
    m_map = new PlaceMap(contents);
    m_tables = new QTreeWidget(contents);
    m_tables->setObjectName("importTables");
    m_tables->setAccessibleName(tr("What is in the file"));
    m_tables->setHeaderLabels({tr("In the file"), tr("Rows"), tr("Used for")});
    m_tables->setRootIsDecorated(false);
    m_tables->setColumnWidth(0, 130);
    m_tables->setColumnWidth(1, 60);
    m_tables->setToolTip(tr("What is unticked stays out for now; it can be added later from the project, without the file"));
    m_changesTitle = new QLabel(contents);
    m_changes = new QListWidget(contents);
    m_changes->setObjectName("importChanges");
    m_changes->setAccessibleName(tr("What importing would change, hole by hole"));
    m_preview = new QTableWidget(contents);
    m_preview->setObjectName("importPreview");
    m_preview->setAccessibleName(tr("The first rows, with what each column means"));
    m_preview->verticalHeader()->hide();
    m_preview->verticalHeader()->setDefaultSectionSize(24);
    m_preview->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_findingsTitle = new QLabel(contents);
    m_findings = new QListWidget(contents);
    m_findings->setWordWrap(true);
    m_findings->setObjectName("importFindings");
    m_findings->setAccessibleName(tr("What was not understood"));
    auto* left = new QVBoxLayout;
    left->addWidget(m_map, 3);
    left->addWidget(m_changesTitle);
    left->addWidget(m_changes, 2);
    auto* right = new QVBoxLayout;
    right->addWidget(m_settingsBox = buildSettings());
    right->addWidget(m_tables, 1);
    auto* top = new QHBoxLayout;
    top->addLayout(left, 3);
    top->addLayout(right, 4);
    auto* all = new QVBoxLayout(contents);
    all->setContentsMargins(0, 0, 0, 0);
    all->addLayout(top, 4);
    all->addWidget(m_preview, 2);
    all->addWidget(m_findingsTitle);
    all->addWidget(m_findings, 2);
    connect(m_tables, &QTreeWidget::itemChanged, this, [this] {
        if (!m_filling) takeSettings(), readSource();
    });
    return contents;
}

QWidget* ImportSheet::buildSettings() {
    auto* box = new QWidget(this);
    auto* form = new QFormLayout(box);
    form->setContentsMargins(0, 0, 0, 0);
    form->setVerticalSpacing(5);
    const auto rowOf = [&](std::initializer_list<QWidget*> widgets) {
        auto* row = new QWidget(box);
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        for (auto* w : widgets) line->addWidget(w);
        return row;
    };
    m_unit = new QComboBox(box);
    m_unit->setObjectName("unitHeading");
    m_unit->setToolTip(tr("Which column says what unit an interval is; the fullest sensible one is proposed"));
    form->addRow(tr("Unit from"), m_unitRow = rowOf({m_unit}));
    m_crs = new QLineEdit(box);
    m_crs->setObjectName("importSystem");
    m_crs->setPlaceholderText(tr("the project's"));
    m_crs->setToolTip(tr("The coordinate system of the file's places, by its EPSG number, if it is not the project's"));
    m_local = new QCheckBox(tr("places from the local grid"), box);
    m_local->setObjectName("useLocalGrid");
    m_local->setToolTip(tr("Use the local coordinates (LOCA_LOCX, LOCA_LOCY), tied to the national grid by two known points"));
    form->addRow(tr("Coordinates in"), rowOf({m_crs, m_local}));
    auto* points = new QWidget(box);
    auto* grid = new QGridLayout(points);
    grid->setContentsMargins(0, 0, 0, 0);
    for (int i = 0; i < 8; ++i) {
        m_control[i] = new QLineEdit(points);
        static const char* kNames[] = {"local x", "local y", "easting", "northing"};
        m_control[i]->setPlaceholderText(tr(kNames[i % 4]));
        m_control[i]->setObjectName(QString("control%1").arg(i));
        m_control[i]->setAccessibleName(tr("Control point %1: %2").arg(i / 4 + 1).arg(tr(kNames[i % 4])));
        grid->addWidget(m_control[i], i / 4, i % 4);
        connect(m_control[i], &QLineEdit::editingFinished, this, [this] { takeSettings(), readSource(); });
    }
    form->addRow(tr("Two known points"), m_localRow = points);
    m_localRow->hide();
    m_as = new QComboBox(box);
    m_as->setObjectName("tableAs");
    m_as->addItems({tr("as it looks"), tr("holes"), tr("survey points")});
    m_sheet = new QComboBox(box);
    m_sheet->setToolTip(tr("Which sheet is shown below"));
    m_feet = new QCheckBox(tr("depths and levels in feet"), box);
    form->addRow(tr("Table of"), m_tableRow = rowOf({m_as, m_sheet, m_feet}));
    m_columns = new QLineEdit(box);
    m_columns->setObjectName("importColumns");
    m_columns->setPlaceholderText(tr("empty: the first row names them (point,northing,easting,level,code)"));
    form->addRow(tr("Columns, in order"), m_columns);
    m_ground = new GroundSettings(box);
    m_ground->setProject(m_project());
    form->addRow(m_ground);
    connect(m_ground, &GroundSettings::changed, this, [this] {
        if (!m_filling) takeSettings(), readSource();
    });
    const auto again = [this] {
        if (!m_filling) takeSettings(), readSource();
    };
    connect(m_crs, &QLineEdit::editingFinished, this, [this, again] {
        if (m_crs->text().trimmed().toStdString() != m_settings.crs) again();
    });
    connect(m_columns, &QLineEdit::editingFinished, this, [this, again] {
        m_settings.mappings.clear();
        again();
    });
    connect(m_local, &QCheckBox::toggled, this, [this, again](bool on) {
        m_localRow->setVisible(on);
        if (!on) again();
    });
    connect(m_as, &QComboBox::activated, this, again);
    connect(m_feet, &QCheckBox::toggled, this, again);
    connect(m_sheet, &QComboBox::activated, this, &ImportSheet::showPreview);
    return box;
}

void ImportSheet::setBusy(bool busy, const QString& words) {
    if (busy && !m_hadFocus) m_hadFocus = focusWidget(); // what can't be used while it reads loses the focus
    for (QWidget* w : std::initializer_list<QWidget*>{m_progress, m_progressWords, m_stop}) w->setVisible(busy);
    m_progressWords->setText(words);
    m_contents->setEnabled(!busy);
    for (QWidget* w : std::initializer_list<QWidget*>{m_import, m_all, m_existing, m_gone}) w->setEnabled(!busy);
    if (busy) return;
    auto* before = m_hadFocus.data();
    m_hadFocus.clear();
    (before && m_contents->isAncestorOf(before) ? before : m_import)->setFocus();
}

void ImportSheet::next() {
    if (m_paths.empty()) return accept();
    const auto path = m_paths.front();
    m_paths.pop_front();
    m_settings = {};
    m_read.reset();
    m_filling = true;
    m_crs->clear();
    m_columns->clear();
    m_local->setChecked(false);
    m_as->setCurrentIndex(0);
    m_feet->setChecked(false);
    m_filling = false;
    m_contents->hide();
    m_file = {QFileInfo(path).fileName().toStdString(), "", {}, 0, {}, {}, path.toStdString()};
    m_skip->setText(m_paths.empty() ? tr("Skip") : tr("Skip, next file"));
    m_all->setVisible(!m_paths.empty());
    m_all->setText(tr("Import all %1").arg(m_paths.size() + 1));
    readSource();
}

void ImportSheet::readSource() {
    m_now = m_project();
    constexpr int kRoom = 880; // pixels
    m_title->ensurePolished(); // its own letters are measured
    m_title->setText(m_title->fontMetrics().elidedText(text(m_file.name), Qt::ElideMiddle, kRoom));
    m_title->setToolTip(text(m_file.name));
    if (!m_read) m_facts->setText(tr("Reading…"));
    setBusy(true, tr("Reading %1").arg(text(m_file.name)));
    m_file.settings = m_settings;
    m_reading.start(
        [file = m_file, project = m_now](const Progress& progress) {
            auto source = file;
            loadBytes(source);
            Read read;
            read.understood = fox::readSource(std::move(source), project.site->crs, {}, progress);
            auto& u = read.understood;
            // tables that were read before are read the same way again
            bool again = false;
            for (const auto& sheet : u.sheets)
                if (!file.settings.mappings.contains(sheet.name))
                    if (const auto known = remembered(sheet.columns); known && *known != u.file.settings.mappings[sheet.name]) {
                        u.file.settings.mappings[sheet.name] = *known;
                        again = true;
                    }
            if (again) u = fox::readSource(u.file, project.site->crs, {}, progress);
            read.ground = countGround(read.understood);
            progress.report(1, "Comparing with the project");
            read.changes = changesBy(project, u);
            read.newerIssue = earlierIssue(project, u) != nullptr;
            if (!u.partial || std::ranges::any_of(u.holes, [](const Hole& h) { return h.easting.has_value(); }))
                read.sense = checkHoles(u.holes);
            return read;
        },
        [this](Read read) { show(std::move(read)); }, [this](const QString& sentence) { showFailure(sentence); },
        [this](double fraction, const QString& words) {
            m_progress->setValue(int(fraction * 1000));
            m_progressWords->setText(words);
        });
}

void ImportSheet::showFailure(const QString& sentence) {
    setBusy(false);
    m_read.reset();
    m_facts->setText(
        sentence.isEmpty()
            ? tr("Stopped. Nothing of it has entered the project.")
            : sentence + " "
                  + tr("Nothing of it has entered the project. Fox Cellar imports AGS 3.1 and 4 files, LAS well logs, "
                       "tables (CSV, XLSX, ODS) of holes or survey points, lines and areas (GPKG, shapefile, GeoJSON, DXF), "
                       "triangles (LandXML, OBJ, PLY), grids (GeoTIFF, ASCII, XYZ) and background images (PNG, JPEG, GeoTIFF)."));
    m_facts->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
    m_import->setEnabled(false);
    m_existing->hide();
    m_gone->hide();
}

void ImportSheet::show(Read read) {
    setBusy(false);
    m_facts->setStyleSheet({});
    m_file = read.understood.file; // with its bytes and settings, for the next look
    m_settings = m_file.settings;
    const bool first = !m_read;
    m_read = std::make_shared<const Read>(std::move(read));
    const auto& u = m_read->understood;
    m_filling = true;
    if (first) m_existing->setCurrentIndex(m_read->newerIssue || u.partial ? 1 : 0);
    m_gone->setVisible(m_read->newerIssue && std::ranges::count(m_read->changes, HoleChange::Kind::Gone, &HoleChange::kind) > 0);
    const bool known =
        std::ranges::any_of(m_read->changes, [](const HoleChange& c) { return c.kind == HoleChange::Kind::Changed; });
    m_existing->setVisible(known);
    const bool table = !u.sheets.empty();
    m_tableRow->setEnabled(table);
    auto* form = qobject_cast<QFormLayout*>(m_settingsBox->layout());
    const auto showRow = [&](QWidget* field, bool visible) {
        field->setVisible(visible);
        form->labelForField(field)->setVisible(visible);
    };
    showRow(m_tableRow, table);
    showRow(m_columns, table);
    showRow(m_unitRow, !u.holes.empty() && std::ranges::any_of(u.holes, [](const Hole& h) { return !h.intervals.empty(); }));
    const bool ags = u.file.format.starts_with("AGS");
    m_local->setVisible(ags);
    m_ground->setVisible(u.isGround());
    m_ground->fill(m_settings, u);
    showRow(m_localRow, ags && m_local->isChecked());
    showTables();
    showUnitHeadings();
    showPreview();
    m_filling = false;
    std::vector<Point2> there;
    auto coming = groundPlaces(u);
    for (const auto& h : *m_now.holes)
        if (const auto p = h.place()) there.push_back(*p);
    for (const auto& h : u.holes)
        if (const auto p = h.place()) coming.push_back(*p);
    m_map->setPlaces(std::move(there), std::move(coming), u.isGround());
    showChanges();
    showFindings();
    showFacts();
    m_contents->show();
}

void ImportSheet::showFacts() {
    if (!m_read) return;
    const auto& u = m_read->understood;
    QString facts;
    if (u.isGround()) return showGroundFacts();
    facts = text(u.file.format);
    if (!u.project.empty())
        facts += tr(", project %1%2").arg(text(u.project), u.title.empty() ? QString() : ": " + text(u.title));
    facts += ". " + counted(qint64(u.holes.size()), "hole");
    const auto words = changeWords(m_read->changes);
    if (!words.isEmpty()) facts += ": " + words.join(", ");
    facts += ".";
    if (m_read->newerIssue) facts += " " + tr("It looks like a newer issue of a file that is in the project.");
    m_facts->setText(facts);
    const auto kinds = [&](HoleChange::Kind k) { return std::ranges::count(m_read->changes, k, &HoleChange::kind); };
    const auto fresh = kinds(HoleChange::Kind::New), changed = kinds(HoleChange::Kind::Changed);
    const bool update = m_existing->currentIndex() == 1;
    const auto holesIn = [](auto n) { return counted(qint64(n), "hole"); };
    m_import->setText(!update || changed == 0 ? tr("Import %1").arg(holesIn(fresh))
                      : fresh == 0            ? tr("Update %1").arg(holesIn(changed))
                                              : tr("Import %1, update %2").arg(holesIn(fresh)).arg(changed));
    m_import->setEnabled(fresh > 0 || (update && (changed > 0 || kinds(HoleChange::Kind::Gone) > 0)));
}

void ImportSheet::showGroundFacts() {
    const auto words = groundWords(m_read->understood, m_read->ground);
    m_facts->setText(m_read->newerIssue
                         ? words.facts + " "
                               + tr("It takes the place of the file of this name in the project; manual edits stay.")
                         : words.facts);
    m_import->setText(m_read->newerIssue ? tr("Update %1").arg(text(m_read->understood.file.name))
                                         : tr("Import %1").arg(words.what));
    m_import->setEnabled(words.anything);
}

void ImportSheet::showTables() {
    const auto& u = m_read->understood;
    m_tables->clear();
    const bool las = u.file.format.starts_with("LAS");
    for (const auto& t : u.tables) {
        auto* item = new QTreeWidgetItem(
            m_tables, {text(t.name), QString::number(t.rows), text(t.feeds.empty() ? "kept in the file" : t.feeds)});
        QStringList columns;
        for (const auto& c : t.columns) columns << text(c);
        item->setToolTip(0, columns.join(", "));
        const bool choosable = t.feeds == "tests" || t.feeds == "paths" || las;
        if (choosable) {
            const bool out = std::ranges::count(m_settings.groupsOut, t.name)
                             || (las && !m_settings.curves.empty() && !std::ranges::count(m_settings.curves, t.name));
            item->setCheckState(0, out ? Qt::Unchecked : Qt::Checked);
        }
        if (t.feeds.empty())
            for (int c = 0; c < 3; ++c) item->setForeground(c, colour::muted);
    }
    if (u.survey) {
        for (const auto& [code, n] : m_read->ground.codes)
            new QTreeWidgetItem(m_tables,
                                {tr("code %1").arg(code.empty() ? tr("(none)") : text(code)), QString::number(n), tr("ground")});
    }
}

void ImportSheet::showUnitHeadings() {
    const auto chosen = m_unit->currentData();
    m_unit->clear();
    for (const auto& h : unitHeadings(m_read->understood.holes))
        m_unit->addItem(tr("%1 (%2 % filled, %3 codes)").arg(text(h.heading)).arg(h.filled * 100, 0, 'f', 0).arg(h.codes),
                        text(h.heading));
    if (const int at = m_unit->findData(chosen); at >= 0) m_unit->setCurrentIndex(at);
    // the units of a project that has some are kept by an import
    m_unit->setEnabled(m_now.sequence->units.empty());
    if (!m_now.sequence->units.empty())
        if (const int at = m_unit->findData(text(m_now.sequence->unitHeading)); at >= 0) m_unit->setCurrentIndex(at);
}

void ImportSheet::showPreview() {
    const auto& sheets = m_read->understood.sheets;
    m_preview->setVisible(!sheets.empty() && !m_read->understood.survey);
    const int was = std::max(0, m_sheet->currentIndex());
    m_sheet->clear();
    for (const auto& s : sheets) m_sheet->addItem(text(s.name));
    m_sheet->setVisible(sheets.size() > 1);
    m_preview->clear();
    m_preview->setRowCount(0);
    if (sheets.empty()) return;
    m_sheet->setCurrentIndex(std::min(was, int(sheets.size()) - 1));
    const auto& sheet = sheets[std::size_t(m_sheet->currentIndex())];
    const auto mapping = m_settings.mappings.find(sheet.name);
    constexpr int kShown = 12;
    m_preview->setColumnCount(int(sheet.columns.size()));
    m_preview->setRowCount(std::min<int>(kShown, int(sheet.rows.size())) + 1);
    for (int c = 0; c < int(sheet.columns.size()); ++c) {
        m_preview->setHorizontalHeaderItem(c, new QTableWidgetItem(text(sheet.columns[std::size_t(c)])));
        auto* role = new QComboBox;
        for (int r = 0; r < kColumnRoles; ++r) role->addItem(QString::fromUtf8(fox::words(ColumnRole(r))));
        if (mapping != m_settings.mappings.end() && std::size_t(c) < mapping->second.roles.size())
            role->setCurrentIndex(int(mapping->second.roles[std::size_t(c)]));
        role->setAccessibleName(tr("What %1 means").arg(text(sheet.columns[std::size_t(c)])));
        connect(role, &QComboBox::activated, this, &ImportSheet::rolesChanged);
        m_preview->setCellWidget(0, c, role);
        m_preview->setColumnWidth(c, 150);
        for (int r = 1; r < m_preview->rowCount(); ++r)
            m_preview->setItem(
                r, c,
                new QTableWidgetItem(QString::fromUtf8(sheet.cell(std::size_t(r - 1), std::size_t(c)).data(),
                                                       qsizetype(sheet.cell(std::size_t(r - 1), std::size_t(c)).size()))));
    }
    if (mapping != m_settings.mappings.end()) m_feet->setChecked(mapping->second.feet);
}

void ImportSheet::rolesChanged() {
    const auto& sheet = m_read->understood.sheets[std::size_t(std::max(0, m_sheet->currentIndex()))];
    auto& mapping = m_settings.mappings[sheet.name];
    mapping.columns = sheet.columns;
    mapping.roles.resize(sheet.columns.size());
    for (int c = 0; c < m_preview->columnCount(); ++c)
        if (const auto* role = qobject_cast<QComboBox*>(m_preview->cellWidget(0, c)))
            mapping.roles[std::size_t(c)] = ColumnRole(role->currentIndex());
    readSource();
}

void ImportSheet::takeSettings() {
    m_settings.crs = m_crs->text().trimmed().toStdString();
    m_settings.columns.clear();
    for (const auto& c : m_columns->text().split(',', Qt::SkipEmptyParts))
        m_settings.columns.push_back(c.trimmed().toStdString());
    m_settings.as = SourceSettings::As(m_as->currentIndex());
    m_ground->into(m_settings);
    for (auto& [sheet, mapping] : m_settings.mappings) mapping.feet = m_feet->isChecked();
    double n[8];
    bool all = m_local->isChecked();
    for (int i = 0; i < 8; ++i) {
        const auto typed = typedNumber(m_control[i]->text());
        all = all && typed;
        n[i] = typed.value_or(0);
    }
    m_settings.localGrid =
        all ? std::optional(LocalGrid{{{n[0], n[1]}, {n[2], n[3]}}, {{n[4], n[5]}, {n[6], n[7]}}}) : std::nullopt;
    m_settings.groupsOut.clear();
    m_settings.curves.clear();
    const bool las = m_read && m_read->understood.file.format.starts_with("LAS");
    bool anyOut = false;
    for (int i = 0; i < m_tables->topLevelItemCount(); ++i) {
        const auto* item = m_tables->topLevelItem(i);
        if (!(item->flags() & Qt::ItemIsUserCheckable) || item->data(0, Qt::CheckStateRole).isNull()) continue;
        const bool in = item->checkState(0) == Qt::Checked;
        anyOut |= !in;
        if (las && in) m_settings.curves.push_back(item->text(0).toStdString());
        if (!las && !in) m_settings.groupsOut.push_back(item->text(0).toStdString());
    }
    if (las && !anyOut) m_settings.curves.clear();
}

void ImportSheet::showChanges() {
    m_changes->clear();
    const auto& changes = m_read->changes;
    const bool any = std::ranges::any_of(changes, [](const HoleChange& c) { return c.kind != HoleChange::Kind::New; });
    m_changesTitle->setVisible(any);
    m_changes->setVisible(any);
    if (!any) return;
    m_changesTitle->setText(tr("Against the project: %1").arg(changeWords(changes).join(", ")));
    for (const auto kind : {HoleChange::Kind::Changed, HoleChange::Kind::Gone, HoleChange::Kind::New, HoleChange::Kind::Same})
        for (const auto& c : changes) {
            if (c.kind != kind) continue;
            QStringList facts;
            for (const auto& f : c.facts) facts << text(f);
            static const char* kWords[] = {"new", "changed", "the same", "no longer in the file"};
            m_changes->addItem(
                tr("%1: %2%3").arg(text(c.hole), tr(kWords[int(kind)]), facts.isEmpty() ? QString() : ", " + facts.join("; ")));
        }
}

void ImportSheet::showFindings() {
    m_findings->clear();
    auto findings = m_read->understood.file.findings;
    findings.insert(findings.end(), m_read->sense.begin(), m_read->sense.end());
    m_findingsTitle->setText(findings.empty() ? tr("Everything was understood.")
                                              : counted(qint64(findings.size()), "finding") + ":");
    m_findings->setVisible(!findings.empty());
    constexpr std::size_t kShown = 500;
    for (std::size_t i = 0; i < std::min(kShown, findings.size()); ++i) m_findings->addItem(text(describe(findings[i])));
    if (findings.size() > kShown)
        m_findings->addItem(
            tr("and %1 more; all of them are with the project once it is imported").arg(findings.size() - kShown));
}

ImportChoices ImportSheet::choices() const {
    ImportChoices out;
    out.existing = m_existing->currentIndex() == 1 ? ImportChoices::Existing::Update : ImportChoices::Existing::Leave;
    out.removeGone = m_gone->isVisible() && m_gone->isChecked();
    out.unitHeading = m_unit->currentData().toString().toStdString();
    return out;
}

void ImportSheet::import() {
    if (!m_read) return;
    for (const auto& [sheet, mapping] : m_settings.mappings) remember(mapping);
    setBusy(true, tr("Importing %1").arg(text(m_file.name)));
    m_importing.start(
        [read = m_read, project = m_now, chosen = choices()](const Progress&) {
            return Edit([read, chosen](const Project& p) { return importSource(p, read->understood, chosen); })
                .prepared(project, importSource(project, read->understood, chosen));
        },
        [this](const Edit& edit) {
            setBusy(false);
            emit editMade(edit);
            next();
        },
        [this](const QString& sentence) { showNotImported(sentence); });
}

namespace {

/// Several files, each added to what the one before made.
Edited importAllOf(const Project& project,
                   const std::vector<std::pair<std::shared_ptr<const ImportPreview>, ImportChoices>>& files) {
    Edited e{project, ""};
    for (const auto& [understood, chosen] : files) e = importSource(e.project, *understood, chosen);
    e.label = "Import " + std::to_string(files.size()) + " files";
    return e;
}

} // namespace

void ImportSheet::importAll() {
    if (!m_read) return;
    setBusy(true, tr("Importing"));
    const std::vector<QString> rest(m_paths.begin(), m_paths.end());
    m_importing.start(
        [first = m_read, rest, project = m_now, chosen = choices()](const Progress& progress) {
            std::vector<std::pair<std::shared_ptr<const ImportPreview>, ImportChoices>> files;
            files.emplace_back(std::shared_ptr<const ImportPreview>(first, &first->understood), chosen);
            auto made = importAllOf(project, files);
            for (const auto& path : rest) {
                progress.report(double(files.size()) / double(rest.size() + 1),
                                "Reading " + QFileInfo(path).fileName().toStdString());
                SourceFile file{QFileInfo(path).fileName().toStdString(), "", {}, 0, {}, {}, path.toStdString()};
                loadBytes(file);
                auto u = fox::readSource(std::move(file), made.project.site->crs, {}, progress.silent());
                auto each = chosen;
                if (u.partial) each.existing = ImportChoices::Existing::Update;
                files.emplace_back(std::make_shared<const ImportPreview>(std::move(u)), each);
                made = importSource(made.project, *files.back().first, each);
            }
            made.label = "Import " + std::to_string(files.size()) + " files";
            return Edit([files](const Project& p) { return importAllOf(p, files); }).prepared(project, std::move(made));
        },
        [this](const Edit& edit) {
            emit editMade(edit);
            m_paths.clear();
            accept();
        },
        [this](const QString& sentence) { showNotImported(sentence); },
        [this](double fraction, const QString& words) {
            m_progress->setValue(int(fraction * 1000));
            m_progressWords->setText(words);
        });
}

/// What was read is still there: it can be imported alone, or the other files after it.
void ImportSheet::showNotImported(const QString& sentence) {
    setBusy(false);
    m_facts->setText(sentence.isEmpty()
                         ? tr("Stopped. Nothing has entered the project.")
                         : tr("%1 Nothing has entered the project; this file can still be imported by itself.").arg(sentence));
    m_facts->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
}

} // namespace fox::app
