#include "dialogs/dropped_files.h"

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
        else if (paths.size() == 1 || !isCompanion(info)) // alone it is asked for by name
            out << path;
    }
    out.removeDuplicates();
    return out.mid(0, kMostDropped);
}

QStringList droppedFiles(const QMimeData& data) {
    QStringList paths;
    for (const auto& url : data.urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    return filesOf(paths);
}

} // namespace fox::app
