// Pictures of the 3D views: from where they are seen, and drawn beside the window.
#include "harness.h"
#include "views/block_canvas.h"
#include "views/block_eye.h"
#include "views/block_view.h"
#include "views/scene_drawer.h"

#include <QApplication>
#include <QMatrix4x4>
#include <QVector3D>
#include <QVector4D>
#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

TEST_CASE("An eye sees points where a camera of the same place and angle has them, and finds them again", "[views][block]") {
    std::mt19937 random(7);
    const auto between = [&](double low, double high) { return std::uniform_real_distribution(low, high)(random); };
    for (int k = 0; k < 200; ++k) {
        const BlockEye eye{
            {between(-50, 50), between(-50, 50), between(0, 20)}, between(200, 900), between(-180, 180), between(-10, 89)};
        const QSizeF size(between(200, 1600), between(200, 1000));
        const double at[3] = {between(-60, 60), between(-60, 60), between(-10, 30)};
        const auto seen = eye.onScreen(at, size);
        QMatrix4x4 camera;
        camera.perspective(float(BlockEye::kAngle), float(size.width() / size.height()), 1, 5000);
        const auto from = eye.position();
        camera.lookAt({float(from[0]), float(from[1]), float(from[2])},
                      {float(eye.focus[0]), float(eye.focus[1]), float(eye.focus[2])}, {0, 0, 1});
        const auto clip = camera.map(QVector4D(float(at[0]), float(at[1]), float(at[2]), 1));
        CHECK(seen.x() == Approx((double(clip.x() / clip.w()) + 1) / 2 * size.width()).margin(0.05));
        CHECK(seen.y() == Approx((1 - double(clip.y() / clip.w())) / 2 * size.height()).margin(0.05));
        const auto found = eye.placeUnder(seen, at[2], size);
        if (std::abs(from[2] - at[2]) < 5) continue; // along the ray the height hardly changes
        REQUIRE(found);
        CHECK(found->x == Approx(at[0]).margin(1e-6));
        CHECK(found->y == Approx(at[1]).margin(1e-6));
    }
    BlockEye level;
    level.away = 100;
    CHECK_FALSE(level.placeUnder({50, 50}, 3, {100, 100})); // it looks along that height
}

TEST_CASE("The picture is what the eye sees: a hole's head is where its name's place is", "[views][block]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    auto* canvas = block->findChild<BlockCanvas*>();
    auto look = block->look();
    look.block = false, look.ground = BlockScene::Look::Ground::Hidden, look.frame = false, look.names = false;
    block->setLook(look);
    window.settle();
    for (const double azimuth : {-24.0, 60.0, 170.0}) {
        canvas->lookFrom(azimuth, 40);
        window.settle();
        const auto picture = canvas->grab().toImage();
        const auto background = picture.pixelColor(2, 2);
        std::size_t drawn = 0, seen = 0;
        for (const auto& top : canvas->scene().tops()) {
            const auto at = (canvas->onScreen(top.at) * picture.devicePixelRatio()).toPoint();
            if (!picture.rect().adjusted(3, 3, -3, -3).contains(at)) continue;
            ++seen;
            bool found = false;
            for (int dx = -2; dx <= 2; ++dx)
                for (int dy = -2; dy <= 2; ++dy) found |= picture.pixelColor(at + QPoint(dx, dy)) != background;
            drawn += found;
        }
        CHECK(seen > 20);
        CHECK(drawn == seen);
    }
}

TEST_CASE("Views share one drawer, and each gets its own scene", "[views][block]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    const auto drawer = SceneDrawer::shared();
    if (!drawer) return;
    const auto* canvas = block->findChild<BlockCanvas*>();
    const auto place = drawer->makePlace(), empty = drawer->makePlace();
    const auto extent = canvas->scene().extent();
    const BlockEye eye{{extent.centre[0], extent.centre[1], extent.centre[2]}, 3 * extent.radius, -24, 33};
    SceneDrawer::Wanted full{canvas->scene().shapes(), eye, {320, 200}, Qt::white, true},
        none{nullptr, eye, {200, 150}, Qt::white};
    const auto first = drawer->drawNow(place, full);
    CHECK(first.size() == QSize(320, 200));
    const auto blank = drawer->drawNow(empty, none);
    CHECK(blank.size() == QSize(200, 150));
    QImage white(blank.size(), QImage::Format_RGB32);
    white.fill(Qt::white);
    CHECK(blank == white);
    CHECK(first.pixelColor(160, 100) != QColor(Qt::white));
    CHECK(drawer->drawNow(place, full) == first); // what was drawn between has changed nothing
    full.eye.azimuth += 40;
    CHECK(drawer->drawNow(place, full) != first);
    // asked for and given when it is done; to one that is gone by then, not at all
    QImage got;
    auto receiver = std::make_unique<QObject>();
    drawer->draw(place, full, receiver.get(), [&](QImage picture) { got = std::move(picture); });
    waitFor("a picture", [&] { return !got.isNull(); });
    bool came = false;
    drawer->draw(place, full, receiver.get(), [&](QImage) { came = true; });
    receiver.reset();
    drawer->drawNow(place, full); // after the one before
    QCoreApplication::processEvents();
    CHECK_FALSE(came);
}

TEST_CASE("A window is not held up while the block is drawn", "[views][block]") {
    DemoWindow window("model");
    auto* block = window.view<BlockView>();
    if (!block->hasOpenGl()) return;
    auto* canvas = block->findChild<BlockCanvas*>();
    const auto before = canvas->pictures();
    canvas->lookFrom(10, 50);
    canvas->repaint(); // asks, and does not wait
    CHECK(canvas->pictures() == before);
    CHECK_FALSE(canvas->settled());
    window.settle();
    CHECK(canvas->pictures() > before);
    const auto picture = block->picture({500, 300});
    CHECK(picture.size() == QSize(500, 300) * block->devicePixelRatioF());
}
