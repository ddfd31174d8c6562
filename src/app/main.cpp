// The window: reads the command line, opens a project, and for --screenshot writes what the window shows.
#include "shell/application.h"
#include "shell/main_window.h"
#include "shell/project_actions.h"
#include "shell/run_mark.h"
#include "store/store.h"
#include "style/theme.h"

#include <QCommandLineParser>
#include <QFileInfo>
#include <QIcon>
#include <QSettings>
#include <QTimer>
#include <iostream>

namespace {

/// Writes the picture once nothing is being worked out; looks again until then.
void shootWhenSettled(fox::app::MainWindow& window, const QString& file) {
    auto* timer = new QTimer(&window);
    auto* quiet = new int(0);
    QObject::connect(timer, &QTimer::timeout, &window, [&window, file, quiet] {
        *quiet = window.settled() ? *quiet + 1 : 0;
        if (*quiet < 5) return; // layouts and the 3D view have had their turns
        const bool written = window.grab().save(file);
        if (!written) std::cerr << file.toStdString() << " can't be written.\n";
        QApplication::exit(written ? 0 : 1);
    });
    timer->start(60);
}

void describeCommandLine(QCommandLineParser& parser) {
    parser.setApplicationDescription("Fox Cellar: ground models from boreholes and survey points");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("project", "PROJECT.gpkg, files to import, or both", "[project] [file...]");
    parser.addOptions({{"demo", "open the Quernbeck demo site"},
                       {"stage", "site, holes, ground, sequence, model, layers, blocks or sheets", "stage"},
                       {"screenshot", "write a picture of the window and leave", "file"},
                       {"size", "of the window", "WxH", "1280x800"}});
}

void nameApplication() {
    QCoreApplication::setApplicationName("Fox Cellar");
    QCoreApplication::setOrganizationName("Fox Cellar");
    QCoreApplication::setApplicationVersion(FOX_VERSION);
}

/// Help and version are said without a display.
bool asksForWordsOnly(int argc, char** argv) {
    return std::any_of(argv + 1, argv + argc, [](const std::string_view word) {
        return word == "--help" || word == "-h" || word == "--help-all" || word == "--version" || word == "-v";
    });
}

/// What is opened; other files are imported.
bool isProjectName(const QString& path) {
    return path.endsWith(".gpkg", Qt::CaseInsensitive) || fox::ProjectStore::isProject(path.toStdString());
}

/// A project is opened, and data that came with it, or without one, are shown before they enter it.
void openGiven(fox::app::MainWindow& window, const QStringList& given) {
    QString project;
    QStringList data;
    for (const auto& path : given) {
        const bool isProject = project.isEmpty() && isProjectName(path);
        (isProject ? project : data.emplaceBack()) = QFileInfo(path).absoluteFilePath();
    }
    const auto importData = [&window, data] {
        if (!data.isEmpty()) window.importFiles(data);
    };
    if (project.isEmpty()) {
        QTimer::singleShot(0, &window, importData);
        return;
    }
    QObject::connect(&window.session(), &fox::app::Session::opened, &window, importData,
                     Qt::ConnectionType(Qt::QueuedConnection | Qt::SingleShotConnection));
    window.projects()->open(project);
}

} // namespace

int main(int argc, char** argv) {
    nameApplication();
    QCommandLineParser parser;
    describeCommandLine(parser);
    if (asksForWordsOnly(argc, argv)) {
        const QCoreApplication app(argc, argv);
        parser.process(app); // says them and leaves
        return 0;
    }
    fox::app::Application app(argc, argv);
    fox::app::applyChosenTheme();
    QApplication::setWindowIcon(QIcon(":/icons/fox-cellar.svg"));

    parser.process(app);
    const QString demo("demo"), stage("stage"), screenshot("screenshot"), size("size");

    std::unique_ptr<fox::app::RunMark> mark;
    QStringList crashed;
    if (!parser.isSet(screenshot)) {
        crashed = fox::app::RunMark::takeCrashed(fox::app::RunMark::usualFolder());
        mark = std::make_unique<fox::app::RunMark>(fox::app::RunMark::usualFolder());
    }
    fox::app::MainWindow window;
    if (mark)
        QObject::connect(&window.session(), &fox::app::Session::opened, mark.get(),
                         [&window, mark = mark.get()] { mark->setProject(window.session().path()); });
    if (parser.isSet(size) || parser.isSet(screenshot)) {
        const auto parts = parser.value(size).split('x');
        if (parts.size() != 2 || parts[0].toInt() < 200 || parts[1].toInt() < 200) {
            std::cerr << "--size takes WIDTHxHEIGHT in pixels, such as 1280x800.\n";
            return 2;
        }
        window.resize(parts[0].toInt(), parts[1].toInt());
    }
    if (parser.isSet(demo))
        window.projects()->openDemo(parser.isSet(screenshot));
    else if (const auto given = parser.positionalArguments(); !given.isEmpty()) {
        openGiven(window, given);
        if (parser.isSet(screenshot))
            QObject::connect(&window.session(), &fox::app::Session::openFailed, &app, [](const QString& sentence) {
                std::cerr << sentence.toStdString() << "\n";
                QApplication::exit(1);
            });
    } else if (!crashed.isEmpty() && QFile::exists(crashed.front()))
        QTimer::singleShot(0, &window, [&window, path = crashed.front()] { window.projects()->offerAfterCrash(path); });
    else
        window.projects()->openLast();
    if (parser.isSet(stage)) {
        const bool known = std::ranges::any_of(fox::app::stages(), [&](const auto& s) { return parser.value(stage) == s.id; });
        if (!known) {
            std::cerr << "--stage: there are site, holes, ground, sequence, model, layers, blocks and sheets.\n";
            return 2;
        }
        window.showStage(parser.value(stage));
    } else if (!parser.isSet(screenshot)) {
        window.showStage(QSettings().value("stage", "site").toString());
    }
    window.show();
    if (parser.isSet(screenshot)) shootWhenSettled(window, parser.value(screenshot));
    return app.exec();
}
