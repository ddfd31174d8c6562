#pragma once
#include <QLockFile>
#include <QObject>
#include <QStringList>
#include <memory>

namespace fox::app {

/// Says beside the user's data, while the application runs, which project is open: if the run ends without taking that away, the
/// next one knows that it crashed, and with what.
class RunMark : public QObject {
    Q_OBJECT
public:
    /// `folder` is made if it is not there; a folder that can't be written to: nothing is marked.
    explicit RunMark(const QString& folder, QObject* parent = nullptr);
    ~RunMark() override;
    static QString usualFolder();

    void setProject(const QString& path);
    /// Projects that were open in runs which did not end properly, newest first, and forgets these runs. One that has ended while
    /// no project was open is an empty path.
    static QStringList takeCrashed(const QString& folder);

private:
    std::unique_ptr<QLockFile> m_lock;
    QString m_file;
};

} // namespace fox::app
