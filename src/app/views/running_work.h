#pragma once
#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <functional>
#include <vector>

namespace fox::app {

/// What works beside the window, for a list in which each can be stopped. One for the application; used on the window's thread.
class RunningWork : public QObject {
    Q_OBJECT
public:
    struct Entry {
        int id = 0;
        QString words;       ///< "Writing a report"
        double fraction = 0; ///< of it that is done; 0 if it does not say
        QElapsedTimer since;
        std::function<void()> stop;
    };
    static RunningWork& all();

    int add(const QString& words, std::function<void()> stop); ///< its id
    void progress(int id, double fraction);
    void remove(int id);
    const std::vector<Entry>& entries() const { return m_entries; }

signals:
    void changed(); ///< there is more or less of it

private:
    std::vector<Entry> m_entries;
    int m_last = 0;
};

} // namespace fox::app
