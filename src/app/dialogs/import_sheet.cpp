#include "dialogs/import_sheet.h"

#include "base/files.h"
#include "dialogs/dropped_files.h"
#include "dialogs/import_details.h"
#include "dialogs/import_list.h"
#include "dialogs/table_memory.h"
#include "formats/archive.h"
#include "style/theme.h"
#include "style/words.h"

#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QScreen>

namespace fox::app {

namespace {

using State = ImportEntry::State;

/// What files have made of a project, with what goes with it: the first holes get a section, so that there is something to see.
Edited withFirstSection(Edited made, const Project& before, std::size_t files) {
    if (before.holes->empty() && made.project.sections->empty())
        if (const auto line = proposedSection(*made.project.holes)) made.project = addSection(made.project, *line).project;
    if (files > 1) made.label = "Import " + counted(qint64(files), "file").toStdString();
    return made;
}

/// Several files, each added to what the one before made.
Edited importAllOf(const Project& project, const std::vector<ImportEntry>& files) {
    Edited e{project, ""};
    for (const auto& f : files) e = importSource(e.project, f.read->understood, f.choices);
    return withFirstSection(std::move(e), project, files.size());
}

/// For the next file of this shape. Without a header the number of columns alone tells shapes apart.
void rememberHowRead(const ImportEntry& e) {
    for (const auto& [sheet, mapping] : e.file.settings.mappings) remember(mapping);
    const auto& u = e.read->understood;
    const bool rowsArePoints = u.sheets.size() == 1 && (u.survey || u.contacts || u.values);
    if (rowsArePoints && !e.file.settings.columns.empty()) rememberOrder(e.file.settings.columns);
    if (rowsArePoints && e.file.settings.columns.empty() && e.file.settings.as != SourceSettings::As::Guess)
        rememberPoints(u.sheets[0].columns, e.file.settings);
}

/// What tells files apart that can be read with the same settings: "LAS", "CSV", "survey points".
std::string kindOf(const ImportEntry& e) {
    const auto& format = e.read->understood.file.format;
    return format.substr(0, format.find(' ') == format.npos || format.starts_with("survey") ? format.npos : format.find(' '));
}

} // namespace

ImportSheet::ImportSheet(std::function<Project()> project, QWidget* parent)
    : QDialog(parent), m_project(std::move(project)), m_reading(this, tr("Reading files")), m_importing(this, tr("Importing")) {
    build();
}

ImportSheet::ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent)
    : ImportSheet(std::move(project), parent) {
    addFiles(paths);
}

ImportSheet::ImportSheet(const PastedText& pasted, std::function<Project()> project, QWidget* parent)
    : ImportSheet(std::move(project), parent) {
    addFile({"pasted.csv", "", SharedBytes(pasted.text.toStdString()), 0, {}, {}, ""});
    readNext();
}

ImportSheet::ImportSheet(const KnownFile& known, std::function<Project()> project, QWidget* parent)
    : ImportSheet(std::move(project), parent) {
    const auto now = m_project();
    const auto at = std::ranges::find(*now.files, known.name.toStdString(), &SourceFile::name);
    if (at == now.files->end()) return;
    auto file = *at;
    if (file.holes == 0 && fileExists(file.path)) file.bytes = {}; // ground data is taken as it is now
    setWindowTitle(tr("Read again"));
    resize(980, 700);
    addFile(std::move(file));
    readNext();
}

ImportSheet::~ImportSheet() = default;

void ImportSheet::build() {
    setObjectName("importSheet");
    setWindowTitle(tr("Import"));
    setModal(true);
    setAcceptDrops(true);
    m_list = new ImportList(this);
    m_details = new ImportDetails(this);
    m_words = new QLabel(this);
    m_words->setObjectName("importWords");
    m_words->setProperty("muted", true);
    m_words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    auto* add = new QPushButton(tr("Add files…"), this);
    add->setObjectName("addFiles");
    m_skip = new QPushButton(tr("Skip"), this);
    m_skip->setObjectName("skipButton");
    m_skip->setToolTip(tr("Leave this file out of the import"));
    m_cancel = new QPushButton(tr("Cancel"), this);
    m_cancel->setObjectName("cancelImport");
    m_import = new QPushButton(tr("Import"), this);
    m_import->setProperty("main", true);
    m_import->setObjectName("importButton");
    m_import->setDefault(true);
    for (auto* other : {add, m_skip, m_cancel})
        other->setAutoDefault(false); // Return is for the main button, wherever it is pressed
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(m_words, 1);
    buttons->addWidget(m_cancel);
    buttons->addWidget(m_skip);
    buttons->addWidget(m_import);
    auto* files = new QHBoxLayout;
    files->setSpacing(16);
    files->addWidget(m_list);
    files->addWidget(m_details, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(8);
    layout->addLayout(files, 1);
    layout->addLayout(buttons);
    connectAll();
    connect(add, &QPushButton::clicked, this,
            [this] { addFiles(QFileDialog::getOpenFileNames(this, tr("Add files"), {}, tr("All files (*)"))); });
}

void ImportSheet::connectAll() {
    connect(m_skip, &QPushButton::clicked, this, [this] { skip(m_current); });
    connect(m_cancel, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_import, &QPushButton::clicked, this, &ImportSheet::import);
    connect(m_list, &ImportList::chosen, this, &ImportSheet::choose);
    connect(m_list, &ImportList::skipAsked, this, &ImportSheet::skip);
    connect(m_details, &ImportDetails::stopAsked, this, [this] {
        m_reading.stop();
        m_importing.stop();
    });
    connect(m_details, &ImportDetails::applyToAllAsked, this, &ImportSheet::applyToAll);
    connect(m_details, &ImportDetails::settingsChanged, this, [this](const SourceSettings& settings) {
        if (auto* e = entry(m_current)) {
            e->file.settings = settings;
            readAgain(e->id);
        }
    });
    connect(m_details, &ImportDetails::choicesChanged, this, [this](const ImportChoices& choices) {
        auto* e = entry(m_current);
        if (!e || !e->read) return;
        e->choices = choices;
        if (e->state == State::Ready || e->state == State::Nothing)
            e->state = bringsAnything(*e->read, choices) ? State::Ready : State::Nothing;
        showButtons();
    });
}

bool ImportSheet::reading() const {
    return m_reading.busy() || m_importing.busy()
           || std::ranges::any_of(m_entries, [](const ImportEntry& e) { return e.state == State::Waiting; });
}

void ImportSheet::addFiles(const QStringList& paths) {
    for (const auto& path : filesOf(paths)) {
        const auto bytes = path.toStdString();
        if (std::ranges::any_of(m_entries, [&](const ImportEntry& e) { return e.file.path == bytes; })) continue;
        const auto name = QFileInfo(path).fileName().toStdString();
        addFile({name, "", {}, 0, {}, settingsBefore(m_project(), name), bytes});
    }
    m_list->setVisible(m_entries.size() > 1);
    const QSize margin(40, 60); // of the screen: frames and bars
    resize((m_entries.size() > 1 ? QSize(1220, 740) : QSize(980, 700)).boundedTo(screen()->availableSize() - margin));
    readNext();
}

void ImportSheet::addFile(SourceFile file) {
    ImportEntry e;
    e.id = ++m_lastId;
    e.file = std::move(file);
    m_entries.push_back(std::move(e));
    if (m_current == 0) m_current = m_lastId;
    m_list->setVisible(m_entries.size() > 1);
}

ImportEntry* ImportSheet::entry(int id) {
    const auto at = std::ranges::find(m_entries, id, &ImportEntry::id);
    return at == m_entries.end() ? nullptr : &*at;
}

ImportEntry* ImportSheet::waiting() {
    if (auto* e = entry(m_current); e && e->state == State::Waiting) return e; // the one that is looked at
    const auto at = std::ranges::find(m_entries, State::Waiting, &ImportEntry::state);
    return at == m_entries.end() ? nullptr : &*at;
}

std::vector<const ImportEntry*> ImportSheet::importable() const {
    std::vector<const ImportEntry*> out;
    for (const auto& e : m_entries)
        if (e.state == State::Ready) out.push_back(&e);
    return out;
}

int ImportSheet::othersLike(const ImportEntry& like) const {
    if (!like.read) return 0;
    return int(std::ranges::count_if(
        m_entries, [&](const ImportEntry& e) { return e.id != like.id && e.read && kindOf(e) == kindOf(like); }));
}

FilesBeside ImportSheet::filesBeside(int id) const {
    FilesBeside out;
    for (const auto& e : m_entries) {
        if (e.id == id || !e.read || e.state != State::Ready) continue;
        if (const auto b = e.read->places.box(); !b.empty()) {
            out.places.include({b.xmin, b.ymin});
            out.places.include({b.xmax, b.ymax});
        }
        for (const auto& [code, name] : e.read->understood.codeNames) {
            out.units.push_back(code);
            out.units.push_back(name);
        }
        if (e.isWhole())
            for (const auto& hole : e.read->understood.holes) out.holes.emplace(hole.id, e.file.name);
    }
    return out;
}

void ImportSheet::readNext() {
    auto* e = m_readingId == 0 ? waiting() : nullptr;
    if (!e) return showAll();
    m_readingId = e->id;
    e->state = State::Reading;
    e->fraction = 0;
    m_reading.start([file = e->file, project = m_project(), others = filesBeside(e->id)](
                        const Progress& progress) { return readForImport(file, project, others, progress); },
                    [this, id = e->id](ReadFile read) { taken(id, std::move(read)); },
                    [this, id = e->id](const QString& why) { failed(id, why); },
                    [this, id = e->id](double fraction, const QString& words) {
                        if (auto* now = entry(id)) now->fraction = fraction;
                        if (id == m_current) m_details->setProgress(fraction, words);
                    });
    showAll();
}

/// With other settings, or another project, as soon as may be; what is being read now waits.
void ImportSheet::readAgain(int id) {
    if (auto* before = entry(m_readingId); before && before->state == State::Reading) before->state = State::Waiting;
    m_readingId = 0;
    if (auto* e = entry(id)) e->state = State::Waiting;
    readNext();
}

void ImportSheet::taken(int id, ReadFile read) {
    m_readingId = 0;
    auto* e = entry(id);
    if (!e) return readNext();
    const auto knew = filesBeside(0);
    e->take(std::move(read));
    const auto knows = filesBeside(0);
    // now that codes are known, those of points may turn out to be names of units
    if (knows.units.size() > knew.units.size())
        for (auto& other : m_entries)
            if (other.state == State::Ready && other.id != id && other.read->understood.survey
                && other.file.settings.as == SourceSettings::As::Guess)
                other.state = State::Waiting;
    if (knows.holes.size() != knew.holes.size()) readTablesAgain();
    // now it is known where the site is: those that asked may know their order
    if (knew.places.empty() && e->state == State::Ready)
        for (auto& other : m_entries)
            if (other.state == State::Asks && other.read->understood.asksForOrder()) other.state = State::Waiting;
    readNext();
}

/// Those of holes, which are other ones now that come with them.
void ImportSheet::readTablesAgain() {
    for (auto& e : m_entries)
        if (e.state == State::Ready && !e.isWhole() && e.read->understood.partial) e.state = State::Waiting;
}

void ImportSheet::failed(int id, const QString& why) {
    m_readingId = 0;
    if (auto* e = entry(id)) {
        e->state = State::Failed;
        e->why = why;
    }
    readNext();
}

void ImportSheet::choose(int id) {
    m_chosenByHand = true;
    m_current = id;
    showAll();
}

void ImportSheet::chooseOne() {
    if (entry(m_current)) return;
    const auto asks = std::ranges::find(m_entries, State::Asks, &ImportEntry::state);
    m_current = asks != m_entries.end() ? asks->id : m_entries.empty() ? 0 : m_entries.front().id;
}

void ImportSheet::skip(int id) {
    if (id == m_readingId) m_reading.stop(), m_readingId = 0;
    if (const auto* e = entry(id); e && e->isWhole()) readTablesAgain();
    std::erase_if(m_entries, [&](const ImportEntry& e) { return e.id == id; });
    if (m_entries.empty()) return accept();
    chooseOne();
    readNext();
}

void ImportSheet::showAll() {
    chooseOne();
    m_list->setEntries(m_entries, m_current);
    if (const auto* e = entry(m_current)) {
        // another file that has been read is no reason to fill fields anew in which somebody may be typing
        const Shown now{e->id, e->state, e->read};
        if (std::exchange(m_shown, now) != now)
            m_details->show(*e, m_project(), othersLike(*e));
        else
            m_details->setOfItsKind(othersLike(*e));
    }
    showButtons();
}

void ImportSheet::showButtons() {
    const auto ready = importable();
    const auto* only = m_entries.size() == 1 ? &m_entries.front() : nullptr;
    const bool busy = m_importing.busy();
    if (only && only->read)
        m_import->setText(actionOf(*only->read, only->choices));
    else
        m_import->setText(tr("Import %1").arg(ready.empty() ? QString() : counted(qint64(ready.size()), "file")).trimmed());
    m_cancel->setText(ready.empty() && !reading() ? tr("Close") : tr("Cancel"));
    m_import->setEnabled(!ready.empty() && !busy && !(only && only->state == State::Reading));
    m_skip->setEnabled(!busy);
    m_skip->setVisible(only != nullptr || !m_list->isVisible());
    m_words->setStyleSheet({});
    QStringList contents;
    for (std::size_t i = 0; i < std::min<std::size_t>(4, ready.size()); ++i)
        contents << contentOf(*ready[i]->read, ready[i]->choices);
    if (ready.size() > 4) contents << QString::fromUtf8("…");
    const auto rest = m_entries.size() - ready.size();
    m_words->setText(only ? QString()
                          : contents.join(", ")
                                + (rest > 0 && !ready.empty()
                                       ? tr(". %1 in this list.").arg(counted(qint64(rest), "file stays", "files stay"))
                                       : QString()));
    auto* focus = focusWidget();
    const bool inUse = focus && (m_details->isAncestorOf(focus) || (focus == m_list && m_chosenByHand));
    if (!inUse) (m_import->isEnabled() ? m_import : m_skip->isVisible() ? m_skip : m_cancel)->setFocus();
}

void ImportSheet::applyToAll() {
    const auto* from = entry(m_current);
    if (!from || !from->read) return;
    const auto kind = kindOf(*from);
    for (auto& e : m_entries) {
        if (e.id == from->id || !e.read || kindOf(e) != kind) continue;
        auto mappings = e.file.settings.mappings; // sheets have names of their own
        for (auto& [sheet, mapping] : mappings)
            for (const auto& [other, with] : from->file.settings.mappings)
                if (with.columns == mapping.columns) mapping = with;
        e.file.settings = from->file.settings;
        e.file.settings.mappings = std::move(mappings);
        e.choices.existing = from->choices.existing;
        e.state = State::Waiting;
    }
    readNext();
}

/// Beside the window: one file after another into what the one before made. One that can't go in holds back no other.
ImportSheet::Imported ImportSheet::importAll(const Project& project, std::vector<ImportEntry> files, const Progress& progress) {
    Imported out;
    std::vector<ImportEntry> good;
    Edited made{project, ""};
    for (auto& f : files) {
        progress.report(double(out.taken.size()) / double(files.size()), "Importing " + f.file.name);
        try {
            // an earlier file may have brought the system that this one is to be read in
            if (f.read->crs != made.project.site->crs) f.take(readForImport(f.file, made.project, {}, progress.silent()));
            made = importSource(made.project, f.read->understood, f.choices);
            out.taken.push_back(f.id);
            good.push_back(std::move(f));
        } catch (const Stopped&) {
            throw;
        } catch (const std::exception& e) {
            out.refused.emplace_back(f.id, QString::fromStdString(e.what()));
        }
    }
    if (good.empty()) return out;
    made = withFirstSection(std::move(made), project, good.size());
    out.edit = Edit([good](const Project& p) { return importAllOf(p, good); }).prepared(project, std::move(made));
    return out;
}

void ImportSheet::import() {
    std::vector<ImportEntry> files;
    for (const auto* e : importable()) files.push_back(*e);
    std::ranges::stable_partition(files, &ImportEntry::isWhole); // tables and logs add to the holes of these
    if (files.empty()) return;
    for (const auto& f : files) rememberHowRead(f);
    m_importing.start([files = std::move(files),
                       project = m_project()](const Progress& progress) { return importAll(project, files, progress); },
                      [this](const Imported& done) { imported(done); },
                      [this](const QString& why) {
                          showButtons();
                          m_words->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
                          m_words->setText((why.isEmpty() ? tr("Stopped.") : why) + " " + tr("Nothing has entered the project."));
                      },
                      [this](double, const QString& words) { m_words->setText(words); });
    showButtons();
}

void ImportSheet::imported(const Imported& done) {
    if (done.edit) emit editMade(*done.edit);
    std::erase_if(m_entries, [&](const ImportEntry& e) {
        return std::ranges::count(done.taken, e.id) > 0 || e.state == State::Nothing; // there is nothing to wait for in these
    });
    for (const auto& [id, why] : done.refused)
        if (auto* e = entry(id)) e->state = State::Failed, e->why = why;
    if (m_entries.empty()) return accept();
    for (auto& e : m_entries) // against the project as it is now
        if (e.state != State::Failed) e.state = State::Waiting;
    m_readingId = 0;
    readNext();
}

void ImportSheet::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls()) e->acceptProposedAction();
}

void ImportSheet::dropEvent(QDropEvent* e) { addFiles(droppedFiles(*e->mimeData())); }

} // namespace fox::app
