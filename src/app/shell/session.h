#pragma once
#include "project/hole_edits.h"
#include "project/products.h"
#include "project/store.h"

#include <QDateTime>
#include <QObject>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace fox::app {

using ProductsPtr = std::shared_ptr<const ProductSet>;

/// The open project: its history, its file, and a thread that saves and works products out. The newest request
/// wins; the interface never waits for it.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override; ///< finishes saving

    const Project& project() const { return m_history.now(); }
    const History& history() const { return m_history; }
    ProductsPtr products() const { return m_products; } ///< the last good ones; null at first
    bool outOfDate() const { return m_busy; }
    QString path() const { return m_path; }
    QDateTime savedAt() const { return m_savedAt; }

    /// Opens a project file. @throws FileError
    void open(const QString& path);
    /// Makes a project file and opens it. @throws FileError
    void create(const QString& path, const Project&);

    void apply(Edited);
    void undo();
    void redo();
    void stopWork(); ///< keeps the last good products
    void workAgain();

signals:
    void projectChanged();
    void productsChanged();
    void progressed(double fraction, const QString& words);
    void busyChanged(bool busy);
    void saved();
    void failed(const QString& sentence); ///< something went wrong out of sight

private:
    void request();
    void work(); ///< the thread's loop
    template <typename ToWindow>
    void save(ProjectStore&, const Project&, const ToWindow&);
    template <typename ToWindow>
    ProductsPtr make(const Project&, std::stop_token, const ToWindow&);
    bool isNewest(int request);
    void finishSaving(); ///< waits until the last edit is in the file

    History m_history{Project{}};
    QString m_path;
    QDateTime m_savedAt;
    ProductsPtr m_products;
    bool m_busy = false;

    std::mutex m_mutex; // for what follows
    std::condition_variable m_wake, m_savedAll;
    bool m_saving = false;
    std::optional<Project> m_next;
    std::shared_ptr<ProjectStore> m_store;
    std::stop_source m_stop;
    bool m_quit = false;
    int m_requests = 0;
    Products m_maker;
    std::thread m_thread; // last: it uses all of the above
};

} // namespace fox::app
