#include "dialogs/dropped_files.h"

#include "formats/archive.h"

#include <QDirIterator>
#include <QFileInfo>
#include <QMimeData>
#include <QUrl>

namespace fox::app {

namespace {

/// Endings of files that are read with another one, and are nothing by themselves.
const QStringList kCompanions{"shx", "dbf", "prj", "cpg", "qpj", "sbn", "sbx", "tfw", "pgw", "jgw", "wld"};

bool isCompanion(const QFileInfo& file) {
    return kCompanions.contains(file.suffix().toLower()) || file.fileName().endsWith(".aux.xml", Qt::CaseInsensitive);
}

/// Named by an AGS file that lies beside the folder: they go with it.
bool isInFileFolder(const QString& path, const QStringList& all) {
    const auto folder = path.section('/', 0, -2);
    if (folder.section('/', -1).compare("FILE", Qt::CaseInsensitive) != 0) return false;
    const auto parent = folder.section('/', 0, -2);
    return std::ranges::any_of(
        all, [&](const QString& f) { return f.section('/', 0, -2) == parent && f.endsWith(".ags", Qt::CaseInsensitive); });
}

/// Files of an archive as if it were a folder; the archive itself if it can't be read: the reading says why.
QStringList filesInArchive(const QString& path) {
    QStringList out;
    try {
        for (const auto& f : fox::filesInArchive(path.toStdString()))
            if (const auto name = QString::fromStdString(f.name);
                !isCompanion(QFileInfo(name)) && !name.startsWith("__") && !name.section('/', -1).startsWith('.'))
                out << path + "/" + name;
    } catch (const Error&) {
        return {path};
    }
    out.sort();
    return out.mid(0, kMostDropped);
}

QStringList filesIn(const QString& folder) {
    QStringList out;
    QDirIterator files(folder, QDir::Files | QDir::Readable, QDirIterator::Subdirectories); // hidden ones are left alone
    while (files.hasNext() && out.size() < kMostDropped) {
        files.next();
        if (!isCompanion(files.fileInfo())) out << files.filePath();
    }
    out.sort();
    return out;
}

} // namespace

QStringList filesOf(const QStringList& paths) {
    QStringList out;
    for (const auto& path : paths) {
        const QFileInfo info(path);
        if (info.isDir())
            out << filesIn(path);
        else if (isArchiveName(path.toStdString()))
            out << filesInArchive(path);
        else if (paths.size() == 1 || !isCompanion(info)) // alone it is asked for by name
            out << path;
    }
    out.removeDuplicates();
    out.removeIf([all = out](const QString& path) { return isInFileFolder(path, all); });
    return out.mid(0, kMostDropped);
}

QStringList droppedFiles(const QMimeData& data) {
    QStringList paths;
    for (const auto& url : data.urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    return filesOf(paths);
}

} // namespace fox::app
