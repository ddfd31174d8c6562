#pragma once
#include <QString>
#include <filesystem>
#include <vector>

class QWidget;

namespace fox::app {

/// Whether these files may be written. Those that exist are listed and asked about, once; true at once if none does.
bool mayReplace(const std::vector<std::filesystem::path>& files, QWidget* parent);

/// Asks for a file to write, with the ending added where the name has none, before it is asked whether an existing file may be
/// replaced. An ending of any of the `kinds` is kept. `start` is the name that is proposed, in the folder that was last chosen
/// for this `purpose` (home at first). `beside` are endings of further files that are written with it ("tif"). Empty: cancelled.
QString askSaveFile(QWidget* parent, const QString& title, const char* purpose, const QString& start, const QString& kinds,
                    const QString& ending, const std::vector<const char*>& beside = {});

} // namespace fox::app
