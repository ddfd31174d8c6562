#include "views/ask_file.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QRegularExpression>
#include <QSettings>

namespace fox::app {

namespace {

QString tr(const char* words) { return QCoreApplication::translate("AskFile", words); }

/// Those of "PNG (*.png);;PDF (*.pdf)".
QStringList endingsOf(const QString& kinds) {
    static const QRegularExpression kEnding(R"(\*\.(\w+))");
    QStringList out;
    for (auto at = kEnding.globalMatch(kinds); at.hasNext();) out << at.next().captured(1).toLower();
    return out;
}

} // namespace

bool mayReplace(const std::vector<std::filesystem::path>& files, QWidget* parent) {
    QStringList there;
    for (const auto& file : files)
        if (std::error_code ignored; std::filesystem::exists(file, ignored)) there << QString::fromStdString(file.string());
    if (there.empty()) return true;
    constexpr int kListed = 12;
    auto listed = there.mid(0, kListed);
    if (there.size() > kListed) listed << tr("and %1 more").arg(there.size() - kListed);
    QMessageBox box(QMessageBox::Warning, tr("Fox Cellar"),
                    there.size() == 1 ? tr("This file exists and would be replaced:")
                                      : tr("These %1 files exist and would be replaced:").arg(there.size()),
                    QMessageBox::Cancel, parent);
    box.setObjectName("replaceBox");
    box.setInformativeText(listed.join("\n"));
    auto* replace = box.addButton(tr("Replace"), QMessageBox::DestructiveRole);
    box.setDefaultButton(QMessageBox::Cancel);
    box.exec();
    return box.clickedButton() == replace;
}

QString askSaveFile(QWidget* parent, const QString& title, const char* purpose, const QString& start, const QString& kinds,
                    const QString& ending, const std::vector<const char*>& beside) {
    const auto key = QString("folderOf/%1").arg(purpose);
    auto folder = QSettings().value(key, QDir::homePath()).toString();
    if (!QFileInfo(folder).isDir()) folder = QDir::homePath();
    QFileDialog dialog(parent, title, QFileInfo(start).isAbsolute() ? start : folder + "/" + start, kinds);
    dialog.setObjectName("saveFileDialog");
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setDefaultSuffix(ending);
    dialog.setOption(QFileDialog::DontConfirmOverwrite); // asked here, of all files that are written
    // a name without an ending is of the kind that is chosen
    QObject::connect(&dialog, &QFileDialog::filterSelected, &dialog,
                     [&](const QString& kind) { dialog.setDefaultSuffix(endingsOf(kind).value(0, ending)); });
    while (dialog.exec() == QDialog::Accepted && !dialog.selectedFiles().isEmpty()) {
        auto path = dialog.selectedFiles().front();
        const auto suffix = QFileInfo(path).suffix().toLower();
        if (suffix != ending && !endingsOf(kinds).contains(suffix)) path += "." + dialog.defaultSuffix(); // dots in a name
        std::vector<std::filesystem::path> files{path.toStdString()};
        for (const char* other : beside) files.push_back(std::filesystem::path(files.front()).replace_extension(other));
        if (!mayReplace(files, parent)) continue;
        QSettings().setValue(key, QFileInfo(path).absolutePath());
        return path;
    }
    return {};
}

} // namespace fox::app
