#include "shell/session.h"

#include "base/errors.h"

#include <QFileInfo>

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
            store = m_store;
            m_stop = std::stop_source();
            if (m_quit) m_stop.request_stop(); // the last edit is saved, its products are not needed
            stop = m_stop.get_token();
            number = m_requests;
        }
        const auto toWindow = [this](auto call) { QMetaObject::invokeMethod(this, std::move(call), Qt::QueuedConnection); };
        ProductsPtr made;
        try {
            if (store) {
                store->save(project);
                toWindow([this] {
                    m_savedAt = QDateTime::currentDateTime();
                    emit saved();
                });
            }
            const Progress progress(stop, [&](double fraction, std::string_view words) {
                toWindow([this, fraction, text = QString::fromUtf8(words.data(), qsizetype(words.size()))] { emit progressed(fraction, text); });
            });
            made = m_maker.of(project, progress);
        } catch (const Stopped&) {
        } catch (const std::exception& e) {
            toWindow([this, text = QString::fromStdString(e.what())] { emit failed(text); });
        }
        toWindow([this, made, number] {
            if (made) {
                m_products = made;
                emit productsChanged();
            }
            const std::scoped_lock lock(m_mutex);
            if (number != m_requests) return; // a newer one is on its way
            m_busy = false;
            QMetaObject::invokeMethod(this, [this] { emit busyChanged(m_busy); }, Qt::QueuedConnection);
        });
    }
}

} // namespace fox::app
