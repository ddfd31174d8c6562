#pragma once
#include <QStringList>

class QMimeData;

namespace fox::app {

/// The files that were dropped, in place of folders and zip archives all files in them and below, by name, at most kMostDropped;
/// without those that only go with another one, such as the parts of a shapefile or a picture's world file.
QStringList droppedFiles(const QMimeData&);
/// The same of paths.
QStringList filesOf(const QStringList& paths);
inline constexpr int kMostDropped = 1000; ///< a folder dropped by mistake does not fill the memory

} // namespace fox::app
