#include "dialogs/import_details.h"

#include "dialogs/column_preview.h"
#include "dialogs/ground_settings.h"
#include "dialogs/import_holes.h"
#include "dialogs/place_map.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/system_edit.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QTreeWidget>
#include <fmt/format.h>

namespace fox::app {

ImportDetails::ImportDetails(QWidget* parent) : QWidget(parent) {
    m_title = new QLabel(this);
    m_title->setStyleSheet("font-size: 16px; font-weight: 600;");
    m_facts = new QLabel(this);
    m_facts->setWordWrap(true);
    m_facts->setObjectName("importFacts");
    m_progressWords = new QLabel(this);
    m_progressWords->setProperty("muted", true);
    for (auto* label : {m_facts, m_progressWords}) // a long file name does not make the sheet wider
        label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Maximum);
    m_title->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    m_progress = new QProgressBar(this);
    m_progress->setRange(0, 1000);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(8);
    m_stop = new QPushButton(tr("Stop"), this);
    m_stop->setObjectName("stopReading");
    m_stop->setAutoDefault(false);
    auto* busy = new QHBoxLayout;
    busy->addWidget(m_progressWords, 1);
    busy->addWidget(m_progress, 2);
    busy->addWidget(m_stop);
    m_existing = new QComboBox(this);
    m_existing->setObjectName("existingChoice");
    m_existing->addItems({tr("holes that are there stay as they are"), tr("holes that are there take what the file says")});
    m_gone = new QCheckBox(tr("take out holes that are gone"), this);
    m_toAll = new QPushButton(this);
    m_toAll->setObjectName("applyToAll");
    m_toAll->setProperty("quiet", true);
    m_toAll->setAutoDefault(false);
    auto* choices = new QHBoxLayout;
    for (const auto as : {SourceSettings::As::SurveyPoints, SourceSettings::As::Contacts}) {
        auto* answer = new QPushButton(
            as == SourceSettings::As::Contacts ? tr("They are contacts of units") : tr("They are survey points"), this);
        answer->setObjectName(as == SourceSettings::As::Contacts ? "areContacts" : "areSurveyPoints");
        answer->setAutoDefault(false);
        connect(answer, &QPushButton::clicked, this, [this, as] {
            m_as->setCurrentIndex(int(as));
            again();
        });
        m_answers.push_back(answer);
    }
    m_layersAnswer = new QPushButton(tr("Use the layers as they are below"), this);
    m_layersAnswer->setObjectName("useLayers");
    m_layersAnswer->setAutoDefault(false);
    connect(m_layersAnswer, &QPushButton::clicked, this, [this] {
        answerLayers();
        takeSettings();
        emit settingsChanged(m_settings);
    });
    auto* answers = new QHBoxLayout;
    answers->addWidget(m_layersAnswer);
    for (auto* answer : m_answers) answers->addWidget(answer);
    answers->addStretch(1);
    choices->addWidget(m_existing);
    choices->addWidget(m_gone);
    choices->addStretch(1);
    choices->addWidget(m_toAll);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    layout->addWidget(m_title);
    layout->addWidget(m_facts);
    layout->addLayout(answers);
    layout->addLayout(busy);
    layout->addWidget(m_contents = buildContents(), 1);
    layout->addStretch(0); // while there are no contents
    layout->addLayout(choices);
    connect(m_stop, &QPushButton::clicked, this, &ImportDetails::stopAsked);
    connect(m_toAll, &QPushButton::clicked, this, &ImportDetails::applyToAllAsked);
    connect(m_existing, &QComboBox::activated, this, &ImportDetails::takeChoices);
    connect(m_gone, &QCheckBox::toggled, this, &ImportDetails::takeChoices);
}

QWidget* ImportDetails::buildContents() {
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
    m_holes = new ImportHoles(contents);
    m_preview = new ColumnPreview(contents);
    m_findingsTitle = new QLabel(contents);
    m_findingsTitle->setObjectName("findingsTitle");
    m_findings = new QListWidget(contents);
    m_findings->setWordWrap(true);
    m_findings->setObjectName("importFindings");
    m_findings->setAccessibleName(tr("What was not understood"));
    auto* left = new QVBoxLayout;
    left->addWidget(m_map, 3);
    left->addWidget(m_holes, 2);
    auto* right = new QVBoxLayout;
    right->addWidget(buildSettings());
    right->addWidget(m_tables, 1);
    auto* top = new QHBoxLayout;
    top->addLayout(left, 3);
    top->addLayout(right, 4);
    auto* all = new QVBoxLayout(contents);
    all->setContentsMargins(0, 0, 0, 0);
    all->addLayout(top, 4);
    all->addWidget(m_preview, 3);
    all->addWidget(m_findingsTitle);
    all->addWidget(m_findings, 1);
    connect(m_tables, &QTreeWidget::itemChanged, this, [this] {
        if (!m_filling && m_entry.read) answerLayers();
        again();
    });
    connect(m_map, &PlaceMap::objectChanged, this, [this](const ObjectChoice& choice) {
        if (m_filling || !m_entry.read) return;
        answerLayers();
        takeSettings();
        std::erase_if(m_settings.objects, [&](const ObjectChoice& c) { return c.layer == choice.layer && c.id == choice.id; });
        if (choice.isOut || choice.level) m_settings.objects.push_back(choice);
        emit settingsChanged(m_settings);
    });
    connect(m_holes, &ImportHoles::leftOutChanged, this, [this](const std::set<std::string>& ids) {
        m_entry.choices.holesOut = ids;
        emit choicesChanged(m_entry.choices);
    });
    connect(m_preview, &ColumnPreview::mappingChanged, this, [this](const std::string& sheet, const TableMapping& mapping) {
        takeSettings();
        m_settings.mappings[sheet] = mapping;
        emit settingsChanged(m_settings);
    });
    connect(m_preview, &ColumnPreview::orderChosen, this, [this](const std::vector<std::string>& columns) {
        takeSettings();
        m_settings.columns = columns;
        m_settings.mappings.clear();
        emit settingsChanged(m_settings);
    });
    return contents;
}

QWidget* ImportDetails::buildSettings() {
    auto* box = new QWidget(this);
    m_form = new QFormLayout(box);
    m_form->setContentsMargins(0, 0, 0, 0);
    m_form->setVerticalSpacing(5);
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
    m_form->addRow(tr("Unit from"), m_unitRow = rowOf({m_unit}));
    m_crs = new SystemEdit(box);
    m_crs->setObjectName("importSystem");
    m_crs->setPlaceholderText(tr("the project's"));
    m_local = new QCheckBox(tr("places from the local grid"), box);
    m_local->setObjectName("useLocalGrid");
    m_local->setToolTip(tr("Use the local coordinates (LOCA_LOCX, LOCA_LOCY), tied to the national grid by two known points"));
    m_idFromName = new QCheckBox(tr("name the well after the file"), box);
    m_idFromName->setObjectName("idFromFileName");
    m_idFromName->setToolTip(tr("Unticked: by the name in the file's header"));
    m_form->addRow(tr("Well"), m_idFromName);
    m_form->addRow(tr("Coordinates in"), rowOf({m_crs, m_local}));
    buildLocalGrid(m_form);
    m_as = new QComboBox(box);
    m_as->setObjectName("tableAs");
    m_as->addItems({tr("as it looks"), tr("holes"), tr("survey points"), tr("contacts of units"), tr("values at points")});
    m_as->setToolTip(tr("Contacts are points on the base or top of a unit that are in no log: from old maps, seismic lines, "
                        "outcrops, tables of tops. Values at points are what was measured at places that are in no hole: "
                        "easting, northing, level, value"));
    m_form->addRow(tr("The rows are"), m_tableRow = rowOf({m_as}));
    m_otherSpelling = new QCheckBox(tr("ids that differ only in case or blanks are one hole's"), box);
    m_otherSpelling->setObjectName("otherSpelling");
    m_otherSpelling->setToolTip(tr("Unticked: BH1 and bh 1 are two holes"));
    m_form->addRow(tr("Hole ids"), m_otherSpelling);
    m_columns = new QLineEdit(box);
    m_columns->setObjectName("importColumns");
    m_columns->setPlaceholderText(tr("empty: by the first row, or by their values"));
    m_columns->setToolTip(tr("Names of the columns in their order: point,northing,easting,level,code"));
    m_form->addRow(tr("Columns, in order"), m_columns);
    m_ground = new GroundSettings(box);
    m_form->addRow(m_ground);
    connect(m_unit, &QComboBox::activated, this, &ImportDetails::takeChoices);
    connect(m_ground, &GroundSettings::changed, this, &ImportDetails::again);
    connect(m_crs, &SystemEdit::systemChosen, this, &ImportDetails::again);
    connect(m_crs, &QLineEdit::editingFinished, this, [this] {
        if (m_crs->text().trimmed().toStdString() != m_settings.crs) again();
    });
    connect(m_columns, &QLineEdit::editingFinished, this, [this] {
        m_settings.mappings.clear();
        again();
    });
    connect(m_local, &QCheckBox::toggled, this, [this](bool on) {
        showRow(m_localRow, on && m_local->isVisible());
        if (!on) again();
    });
    connect(m_as, &QComboBox::activated, this, [this] {
        m_settings.mappings.clear();
        again();
    });
    connect(m_otherSpelling, &QCheckBox::toggled, this, &ImportDetails::again);
    connect(m_idFromName, &QCheckBox::toggled, this, &ImportDetails::again);
    return box;
}

void ImportDetails::buildLocalGrid(QFormLayout* form) {
    m_localRow = new QWidget(this);
    auto* grid = new QGridLayout(m_localRow);
    grid->setContentsMargins(0, 0, 0, 0);
    for (int i = 0; i < 8; ++i) {
        static const char* kNames[] = {"local x", "local y", "easting", "northing"};
        m_control[i] = new QLineEdit(m_localRow);
        m_control[i]->setPlaceholderText(tr(kNames[i % 4]));
        m_control[i]->setObjectName(QString("control%1").arg(i));
        m_control[i]->setAccessibleName(tr("Control point %1: %2").arg(i / 4 + 1).arg(tr(kNames[i % 4])));
        grid->addWidget(m_control[i], i / 4, i % 4);
        connect(m_control[i], &QLineEdit::editingFinished, this, &ImportDetails::again);
    }
    form->addRow(tr("Two known points"), m_localRow);
}

void ImportDetails::show(const ImportEntry& entry, const Project& project, int ofItsKind) {
    using State = ImportEntry::State;
    const bool busy = entry.state == State::Reading || entry.state == State::Waiting;
    m_entry = entry;
    m_filling = true;
    constexpr int kRoom = 780; // pixels
    m_title->ensurePolished(); // its own letters are measured
    m_title->setText(m_title->fontMetrics().elidedText(entry.name(), Qt::ElideMiddle, kRoom));
    m_title->setToolTip(entry.name());
    m_settings = entry.file.settings;
    m_ground->setProject(project);
    m_projectData = {};
    for (const auto& h : *project.holes)
        if (const auto p = h.place()) m_projectData.include(*p);
    if (const auto frame = frameOf(project); frame && m_projectData.empty()) m_projectData = frame->box();
    showFacts();
    if (!entry.read) m_contents->hide();
    if (entry.read && !busy) {
        showSettings();
        showTables();
        showUnitHeadings(project);
        m_preview->show(entry.read->understood);
        std::vector<Point2> there;
        for (const auto& h : *project.holes)
            if (const auto p = h.place()) there.push_back(*p);
        m_map->setPlaces(std::move(there), entry.read->places);
        m_holes->show(entry, project);
        showFindings();
    }
    m_contents->setVisible(entry.read != nullptr); // once it has only what this file needs: it would make the sheet taller
    showChoices(ofItsKind);
    const bool asks = entry.state == State::Asks && entry.read;
    for (auto* answer : m_answers) answer->setVisible(asks && entry.read->understood.asksWhetherContacts);
    m_layersAnswer->setVisible(asks && entry.read->understood.asksForLayers());
    m_filling = false;
    setBusy(busy, tr("Reading %1").arg(entry.name()));
}

void ImportDetails::showFacts() {
    using State = ImportEntry::State;
    const auto& entry = m_entry;
    const bool failed = entry.state == State::Failed;
    m_facts->setStyleSheet(failed                       ? QString("color: %1;").arg(colour::red.name())
                           : entry.state == State::Asks ? QString("color: %1;").arg(colour::amberText.name())
                                                        : QString());
    m_facts->setText(failed
                         ? (entry.why.isEmpty() ? tr("Stopped.") : entry.why) + " " + tr("Nothing of it has entered the project.")
                     : entry.read ? factsOf(*entry.read)
                                  : tr("Reading…"));
}

void ImportDetails::showChoices(int ofItsKind) {
    const auto& entry = m_entry;
    const bool failed = entry.state == ImportEntry::State::Failed;
    const bool known = entry.read && std::ranges::count(entry.read->changes, HoleChange::Kind::Changed, &HoleChange::kind) > 0
                       && !entry.read->there;
    m_existing->setVisible(known && !failed);
    m_existing->setCurrentIndex(entry.choices.existing == ImportChoices::Existing::Update ? 1 : 0);
    m_gone->setVisible(entry.read && entry.read->newerIssue && !failed
                       && std::ranges::count(entry.read->changes, HoleChange::Kind::Gone, &HoleChange::kind) > 0);
    m_gone->setChecked(entry.choices.removeGone);
    setOfItsKind(ofItsKind);
}

void ImportDetails::setOfItsKind(int ofItsKind) {
    m_toAll->setVisible(m_entry.read && ofItsKind > 0);
    m_toAll->setText(tr("Use these settings for %1 of this kind").arg(counted(ofItsKind, "other file")));
}

void ImportDetails::setBusy(bool busy, const QString& words) {
    auto* focus = focusWidget();
    if (busy && !m_hadFocus && focus && m_contents->isAncestorOf(focus)) m_hadFocus = focus; // what is disabled loses it
    for (QWidget* w : std::initializer_list<QWidget*>{m_progress, m_progressWords, m_stop}) w->setVisible(busy);
    m_progressWords->setText(words);
    m_contents->setEnabled(!busy);
    m_existing->setEnabled(!busy);
    m_gone->setEnabled(!busy);
    if (!busy && m_hadFocus) m_hadFocus->setFocus();
    if (!busy) m_hadFocus.clear();
}

void ImportDetails::setProgress(double fraction, const QString& words) {
    m_progress->setValue(int(fraction * 1000));
    m_progressWords->setText(words);
}

void ImportDetails::showRow(QWidget* field, bool visible) {
    field->setVisible(visible);
    if (auto* label = m_form->labelForField(field)) label->setVisible(visible);
}

void ImportDetails::showSettings() {
    const auto& u = m_entry.read->understood;
    const auto& s = m_settings;
    m_crs->setSystem(qt(s.crs));
    // coordinates as the file has them, while they are not brought from another system
    const auto box = m_entry.read->places.box();
    const auto there = m_projectData.empty() || m_entry.read->crs.empty() ? std::string() : m_entry.read->crs;
    m_crs->setPosition(s.crs.empty() && !box.empty() ? std::optional(box.centre()) : std::nullopt, there, m_projectData.centre());
    m_columns->setText(qt(fmt::format("{}", fmt::join(s.columns, ","))));
    m_local->setChecked(s.localGrid.has_value());
    for (int i = 0; i < 8; ++i) { // of each of two points: x, y, easting, northing
        if (!s.localGrid) break;  // what is being typed stays
        const auto& control = i < 4 ? s.localGrid->a : s.localGrid->b;
        const auto p = i % 4 < 2 ? control.local : control.national;
        m_control[i]->setText(QString::number(i % 2 == 0 ? p.x : p.y, 'f', 3));
    }
    m_as->setCurrentIndex(int(s.as));
    m_otherSpelling->setChecked(s.otherSpelling);
    const auto plain = [](const std::string& id) { return qt(id).toLower().remove(' '); };
    const bool spelled = std::ranges::any_of(
        m_entry.read->changes, [&](const HoleChange& c) { return !c.written.empty() && plain(c.written) == plain(c.hole); });
    showRow(m_otherSpelling, spelled || !s.otherSpelling);
    const bool table = !u.sheets.empty(), ags = u.file.format.starts_with("AGS");
    showRow(m_tableRow, table);
    showRow(m_columns, table);
    showRow(m_unitRow, std::ranges::any_of(u.holes, [](const Hole& h) { return !h.intervals.empty(); }));
    showRow(m_idFromName, u.file.format.starts_with("LAS"));
    m_idFromName->setChecked(s.idFromFileName);
    m_local->setVisible(ags);
    showRow(m_localRow, ags && m_local->isChecked());
    m_ground->setVisible(u.isGround());
    m_ground->fill(s, u);
}

void ImportDetails::showTables() {
    const auto& u = m_entry.read->understood;
    m_tables->clear();
    const bool las = u.file.format.starts_with("LAS");
    for (const auto& t : u.tables) {
        auto* item = new QTreeWidgetItem(
            m_tables, {qt(t.name), QString::number(t.rows), qt(t.feeds.empty() ? "kept in the file" : t.feeds)});
        QStringList columns;
        for (const auto& c : t.columns) columns << qt(c);
        item->setToolTip(0, columns.join(", "));
        const bool layer = u.lines && u.tables.size() > 1;
        const bool choosable = t.feeds == "tests" || t.feeds == "paths" || las || layer;
        if (layer && u.file.format != "triangles") m_tables->setItemWidget(item, 2, roleBox(t.name));
        if (choosable) {
            const bool out = std::ranges::count(m_settings.groupsOut, t.name)
                             || (las && !m_settings.curves.empty() && !std::ranges::count(m_settings.curves, t.name));
            item->setCheckState(0, out ? Qt::Unchecked : Qt::Checked);
        }
        if (t.feeds.empty())
            for (int c = 0; c < 3; ++c) item->setForeground(c, colour::muted);
    }
    if (u.survey)
        for (const auto& [code, n] : m_entry.read->ground.codes)
            new QTreeWidgetItem(m_tables,
                                {tr("code %1").arg(code.empty() ? tr("(none)") : qt(code)), QString::number(n), tr("ground")});
    if (u.contacts) {
        std::map<std::string, int> units;
        for (const auto& p : u.contacts->points) ++units[p.unit];
        for (const auto& [unit, n] : units)
            new QTreeWidgetItem(m_tables, {tr("unit %1").arg(qt(unit)), QString::number(n), tr("contacts")});
    }
    if (u.values)
        for (const auto& source : u.values->sources)
            new QTreeWidgetItem(
                m_tables, {source.unit.empty() ? qt(source.quantity) : tr("%1 in %2").arg(qt(source.quantity), qt(source.unit)),
                           QString::number(source.points.size()), tr("values")});
    // a table's one row says no more than the preview under it
    m_tables->setVisible(u.sheets.size() != 1 || u.survey || u.contacts || u.values);
}

/// What a layer is.
QWidget* ImportDetails::roleBox(const std::string& layer) {
    auto* box = new QComboBox(m_tables);
    box->setObjectName("role_" + qt(layer));
    box->setAccessibleName(tr("What the layer %1 is").arg(qt(layer)));
    for (int r = 0; r < kLineRoles; ++r) box->addItem(QString::fromUtf8(fox::words(LineRole(r))));
    const auto& roles = m_settings.layerRoles.empty() ? m_entry.read->understood.proposedRoles : m_settings.layerRoles;
    const auto own = roles.find(layer);
    box->setCurrentIndex(int(own != roles.end() ? own->second : m_settings.role.value_or(LineRole::Breaklines)));
    connect(box, &QComboBox::activated, this, [this, layer](int role) {
        answerLayers();
        takeSettings();
        m_settings.layerRoles[layer] = LineRole(role);
        emit settingsChanged(m_settings);
    });
    return box;
}

void ImportDetails::showUnitHeadings(const Project& project) {
    m_unit->clear();
    for (const auto& h : unitHeadings(m_entry.read->understood.holes))
        m_unit->addItem(
            tr("%1 (%2 % filled, %3)").arg(qt(h.heading)).arg(h.filled * 100, 0, 'f', 0).arg(counted(h.codes, "code")),
            qt(h.heading));
    if (const int at = m_unit->findData(qt(m_entry.choices.unitHeading)); at >= 0) m_unit->setCurrentIndex(at);
    // the units of a project that has some are kept by an import
    m_unit->setEnabled(project.sequence->units.empty());
    if (!project.sequence->units.empty())
        if (const int at = m_unit->findData(qt(project.sequence->unitHeading)); at >= 0) m_unit->setCurrentIndex(at);
}

void ImportDetails::showFindings() {
    m_findings->clear();
    auto findings = m_entry.read->understood.file.findings;
    findings.insert(findings.end(), m_entry.read->sense.begin(), m_entry.read->sense.end());
    const bool quiet = m_entry.read->there || m_entry.read->understood.asks();
    m_findingsTitle->setVisible(!quiet);
    QStringList words{findings.empty() ? tr("Everything was understood.") : counted(qint64(findings.size()), "finding") + ":"};
    if (const auto unused = unusedColumns(m_entry.read->understood); !unused.isEmpty())
        words.prepend(tr("Not used: %1.").arg(unused.join(", ")));
    m_findingsTitle->setText(words.join(' '));
    m_findings->setVisible(!findings.empty() && !quiet);
    constexpr std::size_t kShown = 500;
    for (std::size_t i = 0; i < std::min(kShown, findings.size()); ++i) m_findings->addItem(qt(describe(findings[i])));
    if (findings.size() > kShown)
        m_findings->addItem(
            tr("and %1 more; all of them are with the project once it is imported").arg(findings.size() - kShown));
}

void ImportDetails::again() {
    if (m_filling || !m_entry.read) return;
    takeSettings();
    emit settingsChanged(m_settings);
}

/// What is proposed for the layers holds, but for what is changed after this.
void ImportDetails::answerLayers() {
    if (m_settings.layerRoles.empty()) m_settings.layerRoles = m_entry.read->understood.proposedRoles;
}

void ImportDetails::takeSettings() {
    m_settings.crs = m_crs->text().trimmed().toStdString();
    if (const auto known = m_settings.crs.empty() ? std::nullopt : systemNamed(m_settings.crs)) m_settings.crs = known->code;
    m_settings.columns.clear();
    if (!m_columns->text().trimmed().isEmpty())
        for (const auto& c : m_columns->text().split(',')) m_settings.columns.push_back(c.trimmed().toStdString());
    m_settings.as = SourceSettings::As(m_as->currentIndex());
    m_settings.idFromFileName = m_idFromName->isChecked();
    m_ground->into(m_settings);
    // another system or area is no answer to which layers are ground
    if (m_entry.read->understood.asksForLayers() && m_settings.layerRoles.empty()) m_settings.role.reset();
    m_settings.otherSpelling = m_otherSpelling->isChecked();
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
    const bool las = m_entry.read->understood.file.format.starts_with("LAS");
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

void ImportDetails::takeChoices() {
    if (m_filling || !m_entry.read) return;
    auto& choices = m_entry.choices;
    choices.existing = m_existing->currentIndex() == 1 ? ImportChoices::Existing::Update : ImportChoices::Existing::Leave;
    choices.removeGone = m_gone->isVisible() && m_gone->isChecked();
    choices.unitHeading = m_unit->currentData().toString().toStdString();
    emit choicesChanged(choices);
}

} // namespace fox::app
