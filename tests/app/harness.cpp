#include "harness.h"

#include "dialogs/import_sheet.h"
#include "handover/build_file.h"
#include "stages/shelf.h"

#include <QAbstractButton>
#include <QDropEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QSettings>
#include <QTreeWidget>
#include <QtTest>
#include <catch2/catch.hpp>
#include <set>

namespace fox::test {

void waitFor(const char* what, const std::function<bool()>& condition) {
    INFO("waiting for " << what);
    REQUIRE(QTest::qWaitFor(condition, 240000)); // generous: the machine may be busy
}

void copyDemoProject(const QString& path) {
    static const QTemporaryDir folder;
    const auto made = folder.filePath("demo.gpkg");
    if (!QFile::exists(made)) ProjectStore::create(made.toStdString(), buildProject(FOX_DEMO "/quernbeck.build.json").project);
    QFile::remove(path);
    REQUIRE(QFile::copy(made, path));
}

DemoWindow::DemoWindow(const char* stage, const QString& path) : m_window(std::make_unique<app::MainWindow>()) {
    m_window->resize(1280, 800);
    QSettings().remove("selectionOf");     // nothing is left of an earlier test
    m_window->session().setPatience(3600); // however slow the machine, blocks are made without being asked for
    const auto file = path.isEmpty() ? m_folder.filePath("Quernbeck flood bypass.gpkg") : path;
    copyDemoProject(file);
    m_window->projects()->open(file);
    m_window->showStage(stage);
    m_window->show();
    REQUIRE(QTest::qWaitForWindowExposed(m_window.get(), 60000));
    QApplication::setActiveWindow(m_window.get());
    settle();
}

DemoWindow::~DemoWindow() = default;

void DemoWindow::settle() {
    waitFor("imports to be done", [this] {
        const auto* sheet = m_window->findChild<app::ImportSheet*>();
        return !sheet || !sheet->reading();
    });
    waitFor("the work to be done", [this] { return m_window->settled(); });
    QCoreApplication::processEvents();
}

app::ProductsPtr DemoWindow::made(const Wanted& wanted) {
    app::ProductsPtr out;
    bool answered = false;
    m_window->session().ask(wanted, [&](app::ProductsPtr products) { out = std::move(products), answered = true; });
    waitFor("products", [&] { return answered; });
    REQUIRE(out);
    settle();
    return out;
}

app::ImportSheet* importSheet(app::MainWindow& window) {
    app::ImportSheet* sheet = nullptr;
    waitFor("the import sheet, read", [&] {
        sheet = window.findChild<app::ImportSheet*>("importSheet");
        return sheet && sheet->isVisible() && !sheet->reading();
    });
    return sheet;
}

void answer(QWidget* box, const char* words) {
    for (auto* button : box->findChildren<QAbstractButton*>())
        if (button->text().remove('&') == words) return button->click();
    box->close();
    FAIL("there is no button " << words);
}

ModalAnswers::ModalAnswers(const char* objectName, std::function<void(QWidget*)> act) {
    QObject::connect(&m_watch, &QTimer::timeout, [this, name = QString(objectName), act = std::move(act)] {
        auto* modal = QApplication::activeModalWidget();
        if (!modal || modal->objectName() != name || m_answered == modal) return;
        m_answered = modal;
        ++m_count;
        act(modal);
        m_answered = modal->isVisible() ? modal : nullptr;
    });
    m_watch.start(5);
}

void typeFileName(QWidget* dialog, const QString& path) {
    auto* name = child<QLineEdit>(dialog, "fileNameEdit");
    name->setText(path);
    QTest::keyClick(name, Qt::Key_Return);
}

void tickAlone(QWidget& exportDialog, const std::vector<std::string>& kinds) {
    auto* list = child<QTreeWidget>(&exportDialog, "exportKinds");
    for (int i = 0; i < list->topLevelItemCount(); ++i) {
        auto* item = list->topLevelItem(i);
        const bool on = std::ranges::count(kinds, item->data(0, Qt::UserRole).toString().toStdString()) > 0;
        item->setCheckState(0, on ? Qt::Checked : Qt::Unchecked);
    }
}

app::Shelf* shelf(DemoWindow& window) {
    for (auto* s : window->findChildren<app::Shelf*>())
        if (s->isVisible()) return s;
    throw std::runtime_error("no panel is in sight");
}

void pickIn(DemoWindow& window, const char* objectName, const QString& words) {
    auto* box = child<QComboBox>(shelf(window), objectName);
    const int at = box->findText(words);
    CAPTURE(words.toStdString());
    REQUIRE(at >= 0);
    box->setCurrentIndex(at);
    emit box->activated(at);
    window.settle();
}

void typeInto(QWidget* field, const QString& text) {
    field->setFocus();
    QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(field, text);
    QTest::keyClick(field, Qt::Key_Return);
    QCoreApplication::processEvents();
}

void dropFiles(QWidget* to, const QStringList& paths) {
    QMimeData data;
    QList<QUrl> urls;
    for (const auto& p : paths) urls << QUrl::fromLocalFile(p);
    data.setUrls(urls);
    QDragEnterEvent enter(QPoint(200, 200), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(to, &enter);
    REQUIRE(enter.isAccepted());
    QDropEvent drop(QPointF(200, 200), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(to, &drop);
    QCoreApplication::processEvents();
}

void picture(QWidget* widget, const char* name) {
    const auto folder = qEnvironmentVariable("FOX_PICTURES");
    if (folder.isEmpty()) return;
    for (int i = 0; i < 5; ++i) QCoreApplication::processEvents(); // layouts ask for layouts
    widget->grab().save(QString("%1/%2.png").arg(folder, name));
}

int coloursOf(QWidget* widget) {
    const auto image = widget->grab().toImage();
    std::set<QRgb> found;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) found.insert(image.pixel(x, y));
    return int(found.size());
}

void click(QWidget* widget, QPointF at, Qt::MouseButton button) {
    QTest::mouseMove(widget, at.toPoint());
    QTest::mouseClick(widget, button, Qt::NoModifier, at.toPoint());
    QCoreApplication::processEvents();
}

void press(QWidget* widget, Qt::Key key, Qt::KeyboardModifiers modifiers) {
    QApplication::setActiveWindow(widget->window()); // there is no window manager to do it
    QTest::keyClick(widget, key, modifiers);
    QCoreApplication::processEvents();
}

void pointer(QWidget* w, QEvent::Type type, QPointF at, Qt::MouseButtons held, Qt::KeyboardModifiers keys) {
    QMouseEvent e(type, at, w->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, keys);
    QApplication::sendEvent(w, &e);
}

} // namespace fox::test
