#include "shell/run_mark.h"

#include <QDir>
#include <QSaveFile>
#include <QStandardPaths>
#include <QUuid>

namespace fox::app {

namespace {

constexpr const char* kEnding = ".run";

QString lockOf(const QString& file) { return file + ".lock"; }

/// A lock that falls with its process only, however old it is.
std::unique_ptr<QLockFile> lockFor(const QString& file) {
    auto lock = std::make_unique<QLockFile>(lockOf(file));
    lock->setStaleLockTime(0);
    return lock;
}

} // namespace

RunMark::RunMark(const QString& folder, QObject* parent) : QObject(parent) {
    QDir().mkpath(folder);
    m_file = QDir(folder).filePath(QUuid::createUuid().toString(QUuid::WithoutBraces) + kEnding);
    m_lock = lockFor(m_file);
    if (m_lock->tryLock(0))
        setProject({});
    else
        m_lock.reset();
}

RunMark::~RunMark() {
    if (m_lock) QFile::remove(m_file);
}

QString RunMark::usualFolder() { return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/runs"; }

void RunMark::setProject(const QString& path) {
    if (!m_lock) return;
    QSaveFile file(m_file);
    if (file.open(QIODevice::WriteOnly)) file.write(path.toUtf8()), file.commit();
}

QStringList RunMark::takeCrashed(const QString& folder) {
    QStringList out;
    for (const auto& entry : QDir(folder).entryInfoList({QString("*") + kEnding}, QDir::Files, QDir::Time)) {
        const auto path = entry.absoluteFilePath();
        const auto lock = lockFor(path);
        if (!lock->tryLock(0)) continue; // it runs
        QFile file(path);
        if (file.open(QIODevice::ReadOnly)) out << QString::fromUtf8(file.readAll());
        file.remove();
    }
    return out;
}

} // namespace fox::app
