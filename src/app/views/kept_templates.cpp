#include "views/kept_templates.h"

#include "base/errors.h"
#include "handover/sheet_files.h"

#include <QDir>
#include <QStandardPaths>

namespace fox::app {

namespace {

/// The file of a template's name: letters and figures as they are, all else by its code.
QString fileOf(const std::string& name) {
    return QDir(keptTemplatesFolder())
        .filePath(QString::fromLatin1(QString::fromStdString(name).toUtf8().toPercentEncoding(" ")) + ".json");
}

} // namespace

QString keptTemplatesFolder() {
    return QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).filePath("templates");
}

std::vector<SheetTemplate> keptTemplates() {
    std::vector<SheetTemplate> out;
    const QDir folder(keptTemplatesFolder());
    for (const auto& file : folder.entryList({"*.json"}, QDir::Files, QDir::Name)) try {
            out.push_back(sheetTemplate(folder.filePath(file).toStdString()));
        } catch (const Error&) {
        } // it is none of ours, and stays where it is
    return out;
}

void keepTemplate(const SheetTemplate& t) {
    if (t.name.empty()) throw Error("A template needs a name to be kept by.");
    QDir().mkpath(keptTemplatesFolder());
    saveTemplate(t, fileOf(t.name).toStdString());
}

bool isKept(const SheetTemplate& t) { return QFile::exists(fileOf(t.name)); }

void dropTemplate(const std::string& name) { QFile::remove(fileOf(name)); }

} // namespace fox::app
