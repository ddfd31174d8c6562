#include "shell/session.h"

#include "base/errors.h"

#include <QFileInfo>
#include <future>

namespace fox::app {

Session::Session(QObject* parent) : QObject(parent), m_thread([this] { work(); }) {}

Session::~Session() {
    {
        const std::scoped_lock lock(m_mutex);
        m_quit = true;
        m_stop.request_stop();
    }
    m_wake.notify_one();
    m_thread.join();
}

void Session::open(const QString& path) {
    auto store = std::make_shared<ProjectStore>(ProjectStore::open(path.toStdString()));
    finishSaving();
    m_history = History(store->saved());
    m_path = path;
    m_savedAt = QFileInfo(path).lastModified();
    {
        const std::scoped_lock lock(m_mutex);
        m_store = std::move(store);
        m_next.reset();
    }
    emit projectChanged();
    request();
}

void Session::create(const QString& path, const Project& project) {
    ProjectStore::create(path.toStdString(), project);
    open(path);
}

void Session::apply(Edited e) {
    m_history.add(std::move(e));
    emit projectChanged();
    request();
}

void Session::undo() {
    if (!m_history.canUndo()) return;
    m_history.undo();
    emit projectChanged();
    request();
}

void Session::redo() {
    if (!m_history.canRedo()) return;
    m_history.redo();
    emit projectChanged();
    request();
}

void Session::stopWork() {
    const std::scoped_lock lock(m_mutex);
    m_stop.request_stop();
}

void Session::workAgain() { request(); }

void Session::request() {
    {
        const std::scoped_lock lock(m_mutex);
        m_next = m_history.now();
        m_stop.request_stop();
        ++m_requests;
    }
    if (!m_busy) {
        m_busy = true;
        emit busyChanged(true);
    }
    m_wake.notify_one();
}

void Session::work() {
    for (;;) {
        Project project;
        std::shared_ptr<ProjectStore> store;
        std::stop_token stop;
        int number = 0;
        {
            std::unique_lock lock(m_mutex);
            m_wake.wait(lock, [this] { return m_next || m_quit; });
            if (!m_next) return;
            project = std::move(*m_next);
            m_next.reset();
            m_saving = true;
            store = m_store;
            m_stop = std::stop_source();
            if (m_quit) m_stop.request_stop(); // the last edit is saved, its products are not needed
            stop = m_stop.get_token();
            number = m_requests;
        }
        const auto toWindow = [this](auto call) { QMetaObject::invokeMethod(this, std::move(call), Qt::QueuedConnection); };
        // beside the work: a disk that takes its time does not hold up the picture
        const auto saving = std::async(std::launch::async, [&] {
            if (store) save(*store, project, toWindow);
            {
                const std::scoped_lock lock(m_mutex);
                m_saving = false;
            }
            m_savedAll.notify_all();
        });
        const auto made = make(project, stop, toWindow);
        toWindow([this, made] {
            if (!made) return;
            m_products = made;
            emit productsChanged();
        });
        saving.wait(); // all is done when the edit is in the file too
        toWindow([this, number] {
            if (!isNewest(number)) return; // another one is on its way
            m_busy = false;
            emit busyChanged(false);
        });
    }
}

template <typename ToWindow>
void Session::save(ProjectStore& store, const Project& project, const ToWindow& toWindow) {
    try {
        store.save(project);
        toWindow([this] {
            m_savedAt = QDateTime::currentDateTime();
            emit saved();
        });
    } catch (const std::exception& e) { // the surfaces are still worked out; the next edit tries again
        toWindow([this, text = QString::fromStdString(e.what())] { emit failed(text); });
    }
}

template <typename ToWindow>
ProductsPtr Session::make(const Project& project, std::stop_token stop, const ToWindow& toWindow) {
    try {
        return m_maker.of(project, Progress(std::move(stop), [&](double fraction, std::string_view words) {
                              toWindow([this, fraction, text = QString::fromUtf8(words.data(), qsizetype(words.size()))] {
                                  emit progressed(fraction, text);
                              });
                          }));
    } catch (const Stopped&) {
    } catch (const std::exception& e) {
        toWindow([this, text = QString::fromStdString(e.what())] { emit failed(text); });
    }
    return nullptr;
}

void Session::finishSaving() {
    std::unique_lock lock(m_mutex);
    m_stop.request_stop(); // surfaces need not be finished, edits must be
    m_savedAll.wait(lock, [this] { return !m_next && !m_saving; });
}

bool Session::isNewest(int number) {
    const std::scoped_lock lock(m_mutex);
    return number == m_requests;
}

} // namespace fox::app
