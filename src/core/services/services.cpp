#include "services/services.h"

#include "base/errors.h"
#include "base/parallel.h"
#include "formats/crs.h"
#include "services/made_up_ground.h"

#include <cmath>
#include <fmt/format.h>
#include <thread>

namespace fox {

TileSize sizeOf(const Dataset& offer, const TileRequest& request) {
    const auto& b = request.box;
    if (b.empty() || !(b.width() > 0) || !(b.height() > 0) || !std::isfinite(b.width()) || !std::isfinite(b.height()))
        throw Error("The rectangle is empty: west must be less than east, south less than north.");
    if (!projectedSystem(request.crs))
        throw Error("A tile needs a projected coordinate system: say the project's on the Site stage first.");
    const double columns = std::ceil(b.width() / offer.cell - 1e-9), rows = std::ceil(b.height() / offer.cell - 1e-9);
    if (columns * rows > kMostTileCells)
        throw Error(fmt::format("That would be {:.0f} cells of {:g} m; the service gives at most {:.0f} at once. Take a smaller "
                                "rectangle or coarser cells.",
                                columns * rows, offer.cell, kMostTileCells));
    return {int(columns), int(rows), columns * rows * 8 / 1e6};
}

namespace {

Frame frameOf(const Dataset& offer, const TileRequest& request) {
    const auto size = sizeOf(offer, request);
    const auto& b = request.box;
    return {b.xmin, b.ymax - size.rows * offer.cell, b.xmin + size.columns * offer.cell, b.ymax, offer.cell};
}

/// Levels of the made-up world on a grid, row by row with progress.
Grid worldOn(const Frame& frame, const std::string& crs, double seconds, const Progress& progress) {
    const CoordinateChange toWorld(crs, "EPSG:4326");
    Grid grid(frame);
    constexpr int kPieces = 50;
    for (int piece = 0; piece < kPieces; ++piece) {
        progress.report(double(piece) / kPieces, "Receiving the tile");
        const int from = frame.rows() * piece / kPieces, to = frame.rows() * (piece + 1) / kPieces;
        for (int r = from; r < to; ++r)
            for (int c = 0; c < frame.columns(); ++c)
                if (const auto p = toWorld.forward(frame.centre(c, r))) grid.at(c, r) = made_up::groundAt(p->x, p->y);
        if (seconds > 0) std::this_thread::sleep_for(std::chrono::duration<double>(seconds / kPieces));
    }
    return grid;
}

class StandInElevation : public ElevationService {
public:
    explicit StandInElevation(double seconds) : m_seconds(seconds) {}
    std::vector<Dataset> offers() const override {
        return {{"levels-30", "Elevation, 30 m", "Made-up levels for anywhere, in cells of 30 m. Ships with the program.", 30},
                {"levels-90", "Elevation, 90 m", "Made-up levels for anywhere, in cells of 90 m. Ships with the program.", 90}};
    }
    Raster fetch(const Dataset& offer, const TileRequest& request, const Progress& progress) const override {
        return {worldOn(frameOf(offer, request), request.crs, m_seconds, progress), request.crs};
    }

private:
    double m_seconds;
};

class StandInMap : public MapService {
public:
    explicit StandInMap(double seconds) : m_seconds(seconds) {}
    std::vector<Dataset> offers() const override {
        return {{"map-2", "Map, 2 m", "A synthetic map: relief, water, the beck and a grid of 100 m. Ships with the program.", 2},
                {"map-10", "Map, 10 m", "A synthetic map for larger areas, with a grid of 1 km.", 10}};
    }
    Picture fetch(const Dataset& offer, const TileRequest& request, const Progress& progress) const override {
        const auto frame = frameOf(offer, request);
        const auto levels = worldOn(frame, request.crs, m_seconds, progress);
        Picture out;
        out.width = frame.columns(), out.height = frame.rows();
        out.rgba.resize(frame.cells() * 4, 255);
        out.georeference = {frame.xmin, frame.cell, 0, frame.ymax, 0, -frame.cell};
        out.crs = request.crs;
        const bool demo = request.crs == "EPSG:25831";
        for (int r = 0; r < out.height; ++r)
            for (int c = 0; c < out.width; ++c) paint(out, levels, c, r, demo);
        return out;
    }

private:
    /// Tints by level, light from the north-west, water, and grid lines.
    static void paint(Picture& out, const Grid& levels, int c, int r, bool demo) {
        const auto& f = levels.frame;
        const double z = levels.at(c, r);
        const double east = levels.at(std::min(c + 1, f.columns() - 1), r), south = levels.at(c, std::min(r + 1, f.rows() - 1));
        const double light = 1 + std::clamp(((z - east) + (z - south)) / f.cell * -2, -0.25, 0.25);
        const double t = std::clamp(z / 120, 0.0, 1.0);
        double colour[3] = {232 - 20 * t, 238 - 26 * t, 214 - 40 * t};
        const auto p = f.centre(c, r);
        const double u = p.x - made_up::kWest, v = p.y - made_up::kSouth;
        const bool beck = demo && std::abs(u) < 5000 && std::abs(v) < 5000 && std::abs(made_up::valleyDistance(u, v)) < 5;
        if (std::isnan(z) || z <= 0 || beck)
            colour[0] = 170, colour[1] = 200, colour[2] = 222;
        else
            for (auto& k : colour) k *= light;
        const double step = f.cell < 5 ? 100 : 1000;
        const auto onLine = [&](double at) {
            return std::abs(std::remainder(at, step)) <= f.cell / 2;
        }; // centres lie half a cell off
        if (onLine(p.x) || onLine(p.y))
            for (auto& k : colour) k *= 0.8;
        auto* pixel = out.rgba.data() + (std::size_t(r) * std::size_t(out.width) + std::size_t(c)) * 4;
        for (int k = 0; k < 3; ++k) pixel[k] = std::uint8_t(std::clamp(colour[k], 0.0, 255.0));
    }

    double m_seconds;
};

} // namespace

std::unique_ptr<ElevationService> standInElevationService(double seconds) { return std::make_unique<StandInElevation>(seconds); }
std::unique_ptr<MapService> standInMapService(double seconds) { return std::make_unique<StandInMap>(seconds); }

} // namespace fox
