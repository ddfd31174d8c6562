#pragma once
#include "base/errors.h"
#include "base/progress.h"
#include "views/running_work.h"

#include <QObject>
#include <QThreadPool>
#include <functional>
#include <memory>
#include <mutex>
#include <utility>

namespace fox::app {

/// Work that runs beside the window. The newest request wins: what an older one brings is dropped, and it is asked to
/// stop. All callbacks come on the window's thread, and none once this is gone.
template <typename T>
class Background {
public:
    /// With words for what it is ("Writing a report") it is in the list of what works, where it can be stopped.
    explicit Background(QObject* receiver, QString words = {}) : m_shared(std::make_shared<Shared>()), m_words(std::move(words)) {
        m_shared->receiver = receiver;
    }
    ~Background() {
        unlist();
        const std::scoped_lock lock(m_shared->mutex);
        m_shared->receiver = nullptr;
        m_shared->stop.request_stop();
    }
    Background(const Background&) = delete;
    Background& operator=(const Background&) = delete;

    using Progressed = std::function<void(double, const QString&)>;
    /// `failed` gets a sentence; it is empty if the work was stopped by hand.
    void start(std::function<T(const Progress&)> work, std::function<void(T)> done, std::function<void(const QString&)> failed,
               Progressed progressed = {}) {
        std::stop_token stop;
        int number = 0;
        {
            const std::scoped_lock lock(m_shared->mutex);
            m_shared->stop.request_stop();
            m_shared->stop = std::stop_source();
            stop = m_shared->stop.get_token();
            number = ++m_shared->newest;
        }
        m_busy = true;
        list();
        const auto tell = [shared = m_shared, number](std::function<void()> call) {
            const std::scoped_lock lock(shared->mutex);
            if (!shared->receiver || number != shared->newest) return;
            QMetaObject::invokeMethod(
                shared->receiver,
                [shared, number, call = std::move(call)] {
                    {
                        const std::scoped_lock inner(shared->mutex);
                        if (!shared->receiver || number != shared->newest) return;
                    }
                    call();
                },
                Qt::QueuedConnection);
        };
        QThreadPool::globalInstance()->start([this, tell, stop, work = std::move(work), done = std::move(done),
                                              failed = std::move(failed), progressed = std::move(progressed)] {
            const auto finish = [this, tell](std::function<void()> call) {
                tell([this, call = std::move(call)] {
                    m_busy = false; // still here: tell() saw to it
                    unlist();
                    call();
                });
            };
            try {
                const Progress progress(stop, [&](double fraction, std::string_view words) {
                    if (!m_words.isEmpty()) tell([this, fraction] { RunningWork::all().progress(m_listed, fraction); });
                    if (progressed)
                        tell([progressed, fraction, text = QString::fromUtf8(words.data(), qsizetype(words.size()))] {
                            progressed(fraction, text);
                        });
                });
                auto result = std::make_shared<T>(work(progress));
                finish([done, result] { done(std::move(*result)); });
            } catch (const Stopped&) {
                finish([failed] { failed({}); });
            } catch (const std::exception& e) {
                finish([failed, text = QString::fromStdString(e.what())] { failed(text); });
            }
        });
    }
    void stop() {
        const std::scoped_lock lock(m_shared->mutex);
        m_shared->stop.request_stop();
    }
    bool busy() const { return m_busy; }

private:
    struct Shared {
        std::mutex mutex;
        QObject* receiver = nullptr;
        std::stop_source stop;
        int newest = 0;
    };
    void list() {
        unlist();
        if (m_words.isEmpty()) return;
        m_listed = RunningWork::all().add(m_words, [shared = m_shared] {
            const std::scoped_lock lock(shared->mutex);
            shared->stop.request_stop();
        });
    }
    void unlist() {
        if (m_listed != 0) RunningWork::all().remove(std::exchange(m_listed, 0));
    }

    std::shared_ptr<Shared> m_shared;
    const QString m_words;
    int m_listed = 0; ///< of RunningWork; 0: not in it
    bool m_busy = false;
};

} // namespace fox::app
