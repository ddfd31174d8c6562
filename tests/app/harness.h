#pragma once
#include "shell/main_window.h"
#include "shell/project_actions.h"

#include <QEvent>
#include <QPointer>
#include <QTemporaryDir>
#include <QTimer>
#include <functional>

namespace fox::app {
class ImportSheet;
class Shelf;
} // namespace fox::app

namespace fox::test {

/// Runs the event loop until the condition holds; fails the test if it does not within a generous time.
void waitFor(const char* what, const std::function<bool()>& condition);

/// The demo's project file, built once in this process, as a new file.
void copyDemoProject(const QString& path);

/// What dialogs ask a window's session for.
inline auto asking(fox::app::MainWindow& window) {
    return [&window](const Wanted& wanted, std::function<void(fox::app::ProductsPtr)> use) {
        window.session().ask(wanted, std::move(use));
    };
}

/// A window on a copy of the demo site, shown and settled.
class DemoWindow {
public:
    /// The copy is `path`, or a file of its own that goes with the window.
    explicit DemoWindow(const char* stage = "site", const QString& path = {});
    ~DemoWindow();
    app::MainWindow* operator->() { return m_window.get(); }
    app::MainWindow& operator*() { return *m_window; }
    void settle();
    /// Products of the newest version with all of this, which need not be looked at.
    app::ProductsPtr made(const Wanted&);
    template <typename T>
    T* view() {
        auto* v = m_window->page()->find<T>();
        if (!v) throw std::runtime_error("the stage has no such view");
        return v;
    }
    const Project& project() const { return m_window->session().project(); }
    std::size_t holes() const { return m_window->session().products()->project.holes->size(); }

private:
    QTemporaryDir m_folder;
    std::unique_ptr<app::MainWindow> m_window;
};

/// A pointer event at a place of a widget, in pixels.
void pointer(QWidget* w, QEvent::Type type, QPointF at, Qt::MouseButtons held = Qt::LeftButton,
             Qt::KeyboardModifiers keys = Qt::NoModifier);
/// Presses a button of a box by what it says.
void answer(QWidget* box, const char* words);
/// While it lives, each modal dialog of this name that appears is handed to `act`, which must close it.
class ModalAnswers {
public:
    ModalAnswers(const char* objectName, std::function<void(QWidget*)> act);
    int count() const { return m_count; } ///< that have appeared

private:
    QTimer m_watch;
    QPointer<QWidget> m_answered;
    int m_count = 0;
};
/// Types a path into a file dialog, as a person does, and accepts it.
void typeFileName(QWidget* dialog, const QString& path);
/// Only these kinds are ticked in the export dialog.
void tickAlone(QWidget& exportDialog, const std::vector<std::string>& kinds);

/// The side panel of the stage in sight.
app::Shelf* shelf(DemoWindow&);
/// Types into a field in place of what stands there, as a person does, and leaves it by Enter.
void typeInto(QWidget* field, const QString& text);
/// Drops files on the window, as a file manager does.
void dropFiles(QWidget*, const QStringList& paths);
/// Leaves a picture in the folder FOX_PICTURES, if that is set: for looking, and for docs/screenshots.
void picture(QWidget*, const char* name);
/// How many different colours a widget shows: a few where nothing is drawn, many where there is something to see.
int coloursOf(QWidget*);
/// The import sheet, once it has read its file.
app::ImportSheet* importSheet(app::MainWindow&);
/// Chooses an entry of a list in the side panel by its words.
void pickIn(DemoWindow&, const char* objectName, const QString& words);
void click(QWidget*, QPointF, Qt::MouseButton = Qt::LeftButton);
void press(QWidget*, Qt::Key, Qt::KeyboardModifiers = Qt::NoModifier);
/// A child of a dialog or window by object name; fails the test if it is not there.
template <typename T>
T* child(QWidget* of, const char* name) {
    // what a refilled card has put away is still there for a moment, hidden
    T* found = nullptr;
    for (auto* candidate : of->findChildren<T*>(name))
        if (!found || !candidate->isHidden()) found = candidate;
    if (!found) throw std::runtime_error(std::string("no child named ") + name);
    return found;
}

} // namespace fox::test
