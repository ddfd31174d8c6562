#include "shell/session.h"

#include "base/errors.h"

#include <QFileInfo>

#include <sys/resource.h>
#include <unistd.h>

namespace fox::app {

Session::Session(QObject* parent)
    : QObject(parent),
      m_opening(this),
      m_reading(this),
      m_saver([this](std::stop_token stop) { saveLoop(std::move(stop)); }),
      m_worker([this](std::stop_token stop) { workLoop(std::move(stop)); }) {}

Session::~Session() {
    stopWork();
    m_opening.stop();
    m_reading.stop();
    m_worker.request_stop();
    m_saver.request_stop(); // it saves what is left before it ends
}

void Session::open(const QString& path) { startOpening(path, {}); }
void Session::openNew(const QString& path, std::function<Project()> make) { startOpening(path, std::move(make)); }

void Session::startOpening(const QString& path, std::function<Project()> make) {
    stopWork();
    m_reading.stop();
    finishSaving();
    // a file that is open can't be opened again: one window at a time
    const bool same = QFileInfo(path).canonicalFilePath() == QFileInfo(m_path).canonicalFilePath() && !m_path.isEmpty();
    std::shared_ptr<ProjectStore> old;
    if (same) {
        const std::scoped_lock lock(m_mutex);
        old = std::exchange(m_store, nullptr);
    }
    m_opening.start(
        [path, make = std::move(make), old](const Progress&) mutable {
            old.reset();
            if (make) ProjectStore::replace(path.toStdString(), make());
            return Opened{std::make_shared<ProjectStore>(ProjectStore::open(path.toStdString())), path};
        },
        [this](Opened opened) { take(std::move(opened)); },
        [this, same](const QString& sentence) {
            if (same) { // back to the file as it is on disk, so that edits are saved again
                try {
                    auto store = std::make_shared<ProjectStore>(ProjectStore::open(m_path.toStdString()));
                    const std::scoped_lock lock(m_mutex);
                    m_store = std::move(store);
                } catch (const std::exception& e) {
                    saveDone(QString::fromStdString(e.what()));
                }
            }
            setBusy();
            emit openFailed(sentence);
        });
    setBusy();
}

void Session::take(Opened now) {
    m_maker.forgetBlocks();
    m_againBlocks.clear();
    m_history = History(now.store->saved(), now.store->history());
    m_path = m_keptIn = now.path;
    m_savedAt = QFileInfo(m_path).lastModified();
    m_readOnly = QString::fromStdString(now.store->readOnlyBecause());
    m_fileFindings = now.store->findings();
    m_notSaved.clear();
    {
        const std::scoped_lock lock(m_mutex);
        m_store = std::move(now.store);
        m_toSave.clear();
        m_saveFailed = false;
    }
    emit saveStateChanged();
    emit opened();
    emit projectChanged();
    request(Save::No); // it is in the file as it is
}

void Session::saveAs(const QString& path) {
    m_opening.start(
        [path, project = project(), state = m_history.state()](const Progress&) {
            ProjectStore::replace(path.toStdString(), project, state);
            return Opened{std::make_shared<ProjectStore>(ProjectStore::open(path.toStdString())), path};
        },
        [this](Opened opened) {
            m_path = opened.path;
            m_readOnly = QString::fromStdString(opened.store->readOnlyBecause());
            {
                const std::scoped_lock lock(m_mutex);
                m_store = std::move(opened.store);
                m_toSave.clear();
                saveNewest(); // with what was edited meanwhile
                m_saveFailed = false;
            }
            m_wakeSaver.notify_one();
            emit saveStateChanged();
            emit projectChanged();
        },
        [this](const QString& sentence) {
            setBusy();
            emit failed(sentence);
        });
    setBusy();
}

bool Session::apply(const Edit& edit) {
    try {
        if (opening()) throw Error("A project is being opened: edit it when it is there.");
        if (!m_readOnly.isEmpty()) throw Error(m_readOnly.toStdString());
        auto edited = edit(m_history.now());
        if (sameVersion(edited.project, m_history.now())) {
            endPreview();
            return true;
        }
        m_history.add(std::move(edited));
    } catch (const std::exception& e) {
        endPreview();
        emit refused(QString::fromStdString(e.what()));
        return false;
    }
    emit projectChanged();
    request();
    return true;
}

void Session::preview(const Edit& edit) {
    if (opening() || !m_readOnly.isEmpty()) return;
    Job job;
    try {
        job.project = edit(m_history.now()).project;
    } catch (const std::exception&) {
        return; // it is said when it is let go
    }
    m_previewing = true;
    job.held = m_model;
    job.isPreview = true;
    {
        const std::scoped_lock lock(m_mutex);
        m_toMake = std::move(job);
        if (!m_makingPreview) m_stop.request_stop(); // a preview is finished: one after another, however fast the hand is
    }
    m_wakeMaker.notify_one();
    setBusy();
}

void Session::endPreview() {
    if (std::exchange(m_previewing, false)) request(Save::No);
}

void Session::undo() { go(History::Way::Undo); }
void Session::redo() { go(History::Way::Redo); }

void Session::go(History::Way way) {
    if (opening() || m_reading.busy() || !(way == History::Way::Undo ? m_history.canUndo() : m_history.canRedo())) return;
    if (const auto state = m_history.toRead(way)) {
        m_reading.start(
            [path = m_keptIn.toStdString(), state, now = project()](const Progress&) {
                auto version = ProjectStore::version(path, *state);
                shareParts(version, now);
                return version;
            },
            [this, way, state, path = m_keptIn](Project version) {
                // there was an edit meanwhile, or another project was opened, whose states have the same numbers
                if (m_keptIn != path || m_history.toRead(way) != state) return setBusy();
                m_history.give(*state, std::move(version));
                go(way);
            },
            [this](const QString& sentence) {
                setBusy();
                emit refused(sentence);
            });
        return setBusy();
    }
    way == History::Way::Undo ? m_history.undo() : m_history.redo();
    emit projectChanged();
    request();
}

void Session::setWanted(const Wanted& wanted) {
    {
        const std::scoped_lock lock(m_mutex);
        if (m_wanted == wanted) return;
        m_wanted = wanted;
    }
    if (m_products && !m_products->wanted.covers(wanted)) request(Save::No);
}

bool Session::upToDate(const Wanted& wanted) const {
    return m_products && m_products->wanted.covers(wanted) && sameVersion(m_products->project, m_history.now())
           && (m_againBlocks.empty() || !wanted.has(ProductKind::Blocks));
}

void Session::makeBlocksAgain(const std::set<std::string>& names) {
    m_againBlocks.insert(names.begin(), names.end());
    m_maker.setAgain(m_againBlocks);
    request(Save::No);
}

void Session::ask(const Wanted& wanted, std::function<void(ProductsPtr)> use) {
    if (upToDate(wanted)) return use(m_products);
    m_asked.push_back({wanted, std::move(use)});
    request(Save::No);
}

void Session::stopWork() {
    const std::scoped_lock lock(m_mutex);
    m_stop.request_stop();
}

void Session::workAgain() { request(Save::No); }

void Session::holdWork(bool held) {
    {
        const std::scoped_lock lock(m_mutex);
        m_held = held;
        if (held) m_stop.request_stop();
    }
    if (!held) m_wakeMaker.notify_one();
}

void Session::saveAgain() {
    {
        const std::scoped_lock lock(m_mutex);
        if (m_store && m_readOnly.isEmpty()) saveNewest();
    }
    m_wakeSaver.notify_one();
    setBusy();
}

void Session::saveNewest() {
    constexpr std::size_t kMostWaiting = 20; // of edits that come faster than they are written: then several make a step
    if (m_toSave.size() >= kMostWaiting) m_toSave.pop_back();
    m_toSave.push_back({m_history.now(), {m_history.state(), m_history.undoLabel()}});
}

void Session::request(Save save) {
    m_previewing = false;
    {
        const std::scoped_lock lock(m_mutex);
        m_toMake = Job{m_history.now(), nullptr, false};
        m_alsoWanted = {};
        for (const auto& asked : m_asked) m_alsoWanted.add(asked.wanted);
        if (save == Save::Yes && m_store && m_readOnly.isEmpty()) saveNewest();
        m_stop.request_stop();
    }
    m_wakeSaver.notify_one();
    m_wakeMaker.notify_one();
    setBusy();
}

/// Looks whether anything is under way, and says so if that is new.
void Session::setBusy() {
    bool busy = opening() || m_reading.busy();
    {
        const std::scoped_lock lock(m_mutex);
        busy = busy || m_saving || m_making || m_toMake || (!m_toSave.empty() && m_store);
    }
    if (busy == m_busy) return;
    m_busy = busy;
    emit busyChanged(busy);
}

namespace {

/// A large import is written on a thread of its own that gives way to pictures: with few cores it would hold them up by seconds.
/// (A thread can't take back that it gives way.)
void saveTo(ProjectStore& store, const Project& project, const KeptStep& step) {
    if (!store.writesMuch(project)) return store.save(project, step);
    std::exception_ptr failure;
    std::thread([&] {
        constexpr int kNice = 10;
        (void)setpriority(PRIO_PROCESS, id_t(gettid()), kNice); // of this thread alone, on Linux
        try {
            store.save(project, step);
        } catch (...) {
            failure = std::current_exception();
        }
    }).join();
    if (failure) std::rethrow_exception(failure);
}

} // namespace

void Session::saveLoop(std::stop_token stop) {
    for (;;) {
        ToSave next;
        std::shared_ptr<ProjectStore> store;
        {
            std::unique_lock lock(m_mutex);
            m_wakeSaver.wait(lock, stop, [this] { return !m_toSave.empty() && m_store; });
            if (m_toSave.empty() || !m_store) return; // it was asked to end, and all is saved
            next = std::move(m_toSave.front());
            m_toSave.pop_front();
            m_saving = true;
            store = m_store;
        }
        QString problem;
        try {
            saveTo(*store, next.project, next.step);
        } catch (const std::exception& e) {
            problem = QString::fromStdString(e.what());
        }
        {
            const std::scoped_lock lock(m_mutex);
            m_saving = false;
            m_saveFailed = !problem.isEmpty();
        }
        m_idle.notify_all();
        onWindow([this, problem] { saveDone(problem); });
    }
}

void Session::saveDone(const QString& problem) {
    const bool changed = m_notSaved != problem;
    m_notSaved = problem;
    if (problem.isEmpty()) m_savedAt = QDateTime::currentDateTime();
    if (problem.isEmpty()) emit saved();
    if (changed) emit saveStateChanged();
    setBusy();
}

bool Session::finishSaving() {
    std::unique_lock lock(m_mutex);
    m_idle.wait(lock, [this] { return !m_saving && (m_toSave.empty() || !m_store); });
    return !m_saveFailed;
}

void Session::workLoop(std::stop_token stop) {
    for (;;) {
        Job job;
        Wanted wanted;
        std::stop_token stopMaking;
        {
            std::unique_lock lock(m_mutex);
            m_wakeMaker.wait(lock, stop, [this] { return m_toMake && !m_held; });
            if (stop.stop_requested()) return;
            job = std::move(*m_toMake);
            m_toMake.reset();
            wanted = m_wanted;
            wanted.add(m_alsoWanted);
            m_making = true, m_makingPreview = job.isPreview;
            m_stop = std::stop_source();
            stopMaking = m_stop.get_token();
        }
        const bool done = makeAll(job, wanted, stopMaking);
        {
            const std::scoped_lock lock(m_mutex);
            m_making = m_makingPreview = false;
        }
        onWindow([this, done, stopMaking] {
            bool superseded = false; // a newer version may be made already: its products come behind this
            {
                const std::scoped_lock lock(m_mutex);
                superseded = m_stop.get_token() != stopMaking;
            }
            if (!done && !superseded) giveUp();
            setBusy();
        });
    }
}

/// First what is in sight, so that an edit shows at once; then what only the findings and the stages' figures ask for, and which
/// points are off, which takes about as long as the triangles themselves.
bool Session::makeAll(const Job& job, const Wanted& wanted, std::stop_token stop) {
    auto inSight = wanted;
    inSight.kinds.erase(ProductKind::AllFindings);
    inSight.kinds.erase(ProductKind::Outliers);
    if (job.isPreview) inSight.kinds.clear(); // grids and maps wait for the hand to rest
    for (const auto& part : {inSight, wanted}) {
        const auto made = make(job, part, stop);
        if (!made) return false;
        onWindow([this, made, isPreview = job.isPreview] {
            m_showsPreview = isPreview;
            take(made);
        });
        if (inSight == wanted || job.isPreview) break;
    }
    return true;
}

/// Nobody waits for what does not come, unless a newer version is being worked out.
void Session::giveUp() {
    {
        const std::scoped_lock lock(m_mutex);
        if (m_toMake || m_making) return;
    }
    m_againBlocks.clear();
    m_maker.setAgain({});
    for (const auto& asked : std::exchange(m_asked, {})) asked.use(nullptr);
}

void Session::take(ProductsPtr made) {
    if (const auto& before = m_products;
        before && !made->wanted.has(ProductKind::AllFindings) && before->project.sequence == made->project.sequence) {
        // until they are found again, the last ones stay in sight
        auto with = std::make_shared<ProductSet>(*made);
        with->findings = before->findings;
        if (!with->volumes) with->volumes = before->volumes;
        if (!with->outliers && with->terrain == before->terrain) with->outliers = before->outliers;
        made = std::move(with);
    }
    if (sameVersion(made->project, m_history.now())) m_model = made->model;
    m_products = std::move(made);
    if (m_products->wanted.has(ProductKind::Blocks))
        std::erase_if(m_againBlocks, [this](const std::string& name) {
            return std::ranges::none_of(m_products->blocks, [&](const auto& b) { return b->outOfDate && b->spec.name == name; });
        });
    emit productsChanged();
    for (std::size_t i = 0; i < m_asked.size();) {
        if (!upToDate(m_asked[i].wanted)) {
            ++i;
            continue;
        }
        const auto use = std::move(m_asked[i].use);
        m_asked.erase(m_asked.begin() + std::ptrdiff_t(i));
        use(m_products);
    }
}

ProductsPtr Session::make(const Job& job, const Wanted& wanted, std::stop_token stop) {
    const Progress progress(std::move(stop), [&](double fraction, std::string_view words) {
        onWindow([this, fraction, text = QString::fromUtf8(words.data(), qsizetype(words.size()))] {
            emit progressed(fraction, text);
        });
    });
    try {
        return m_maker.of(job.project, progress, wanted, job.held, Products::Slow::Leave);
    } catch (const Stopped&) {
    } catch (const std::exception& e) {
        onWindow([this, text = QString::fromStdString(e.what())] { emit failed(text); });
    }
    return nullptr;
}

} // namespace fox::app
