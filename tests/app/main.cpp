#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "shell/application.h"
#include "style/theme.h"

#include <QApplication>
#include <QStandardPaths>
#include <QTemporaryDir>

int main(int argc, char** argv) {
    // the user's own projects and settings stay out of it
    const QTemporaryDir home;
    for (const char* name : {"XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_RUNTIME_DIR", "XDG_CACHE_HOME"})
        qputenv(name, home.path().toUtf8());
    qputenv("LIBGL_ALWAYS_SOFTWARE", "1");
    const fox::app::Application app(argc, argv);
    QApplication::setApplicationName("Fox Cellar");
    QApplication::setOrganizationName("Fox Cellar");
    fox::app::applyTheme();
    return Catch::Session().run(argc, argv);
}
