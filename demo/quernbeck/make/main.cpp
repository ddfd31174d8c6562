// Makes the demo site's files: make_quernbeck FOLDER. The same files every time.
#include "base/files.h"
#include "files.h"

#include <QGuiApplication>
#include <iostream>

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication app(argc, argv); // for the letters of the old plan
    if (argc != 2) {
        std::cerr << "make_quernbeck FOLDER\n";
        return 2;
    }
    const std::filesystem::path folder = argv[1];
    try {
        std::filesystem::create_directories(folder);
        fox::writeBytes(folder / "phase1_main.ags",
                        quernbeck::ags4(quernbeck::phase1(), "QB19", "Quernbeck flood bypass, main investigation", true));
        fox::writeBytes(folder / "phase2_river.ags", quernbeck::ags3(quernbeck::phase2(), "QB16", "Quernbeck, river works"));
        fox::writeBytes(folder / "phase3_later.ags",
                        quernbeck::ags4(quernbeck::phase3(), "QB21", "Quernbeck flood bypass, additional holes", false));
        fox::writeBytes(folder / "phase4_soundings.ags", quernbeck::soundings());
        fox::writeBytes(folder / "phase5_monitoring.ags", quernbeck::monitoring());
        quernbeck::writeSurveyFiles(folder);
        quernbeck::writeOtherFiles(folder);
        return 0;
    } catch (const std::exception& e) {
        std::cerr << e.what() << '\n';
        return 1;
    }
}
