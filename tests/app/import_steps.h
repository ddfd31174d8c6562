#pragma once
// What a person does with the import sheet, step by step.
#include "base/files.h"
#include "dialogs/import_sheet.h"
#include "harness.h"

#include <QPushButton>
#include <QTemporaryDir>

namespace fox::test {

inline QPushButton* importButton(app::ImportSheet* sheet) { return child<QPushButton>(sheet, "importButton"); }

inline void waitUntilRead(app::ImportSheet* sheet) {
    waitFor("the files to be read", [&] { return !sheet->reading(); });
}

/// Drops files on the window; the sheet, once it has read them.
inline app::ImportSheet* dropped(DemoWindow& window, const QStringList& paths) {
    dropFiles(&*window, paths);
    auto* sheet = importSheet(*window);
    waitUntilRead(sheet);
    return sheet;
}

/// Presses the button and waits until the sheet is gone and all is worked out.
inline void import(DemoWindow& window, app::ImportSheet* sheet) {
    auto* button = importButton(sheet);
    if (!button->isEnabled()) throw std::runtime_error("nothing can be imported");
    button->click();
    waitFor("the sheet to close", [&] { return !window->findChild<app::ImportSheet*>("importSheet"); });
    window.settle();
}

/// A file of this text; its path.
inline QString written(const QTemporaryDir& folder, const char* name, const std::string& text) {
    const auto path = folder.filePath(name);
    writeBytes(path.toStdString(), text);
    return path;
}

} // namespace fox::test
