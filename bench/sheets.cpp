// Logs on paper, against what Cairo takes for the same pages.
#include "bench.h"
#include "paper/render.h"
#include "sheets/sheet.h"

#include <cairo-pdf.h>

namespace fox::bench {

namespace {

/// Holes of forty strata, so that a log at 1:50 has two pages.
Project loggedHoles(int n) {
    Project p;
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 10000, 10000, 50}, {}});
    Holes holes;
    for (const auto& at : surveyLike(std::size_t(n))) {
        Hole h;
        h.id = fmt::format("BH{:03}", holes.size()), h.name = h.id;
        h.easting = at.x, h.northing = at.y, h.level = Level{at.z};
        for (int i = 0; i < 40; ++i) {
            h.intervals.push_back(
                {Depth{i * 0.5},
                 Depth{i * 0.5 + 0.5},
                 "Firm to stiff dark greyish brown slightly sandy slightly gravelly CLAY with occasional cobbles.",
                 {{"GEOL_GEOL", i % 2 ? "A" : "B"}},
                 i});
            h.samples.push_back({Depth{i * 0.5}, Depth{i * 0.5 + 0.4}, "U", std::to_string(i)});
        }
        h.finalDepth = Depth{20};
        holes.push_back(std::move(h));
    }
    p.holes = part(std::move(holes));
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (const char* code : {"A", "B"}) {
        Unit u;
        u.code = u.name = code;
        s.units.push_back(u);
    }
    p.sequence = part(std::move(s));
    return p;
}

/// The same lines, areas and words by Cairo alone: words by its own simple call, areas without patterns.
std::size_t bareCairo(const std::vector<paper::Drawing>& pages) {
    constexpr double kPoints = 72 / 25.4;
    std::string out;
    const auto append = [](void* to, const unsigned char* bytes, unsigned int count) {
        static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
        return CAIRO_STATUS_SUCCESS;
    };
    auto* surface = cairo_pdf_surface_create_for_stream(append, &out, pages[0].width * kPoints, pages[0].height * kPoints);
    auto* c = cairo_create(surface);
    const auto ink = [c](paper::Colour colour) {
        cairo_set_source_rgba(c, colour.red / 255.0, colour.green / 255.0, colour.blue / 255.0, colour.alpha / 255.0);
    };
    const auto path = [c](const auto& points) {
        for (std::size_t i = 0; i < points.size(); ++i)
            i == 0 ? cairo_move_to(c, points[i].x, points[i].y) : cairo_line_to(c, points[i].x, points[i].y);
    };
    cairo_scale(c, kPoints, kPoints);
    for (const auto& page : pages) {
        for (const auto& item : page.items) {
            if (const auto* line = std::get_if<paper::Line>(&item.shape)) {
                path(line->points), ink(line->pen.colour);
                cairo_set_line_width(c, line->pen.width);
                cairo_stroke(c);
            } else if (const auto* area = std::get_if<paper::FilledArea>(&item.shape)) {
                for (const auto& ring : area->rings) path(ring), cairo_close_path(c);
                if (area->fill.colour) ink(*area->fill.colour), cairo_fill_preserve(c);
                if (area->outline)
                    ink(area->outline->colour), cairo_set_line_width(c, area->outline->width), cairo_stroke_preserve(c);
                cairo_new_path(c);
            } else if (const auto* text = std::get_if<paper::Text>(&item.shape)) {
                cairo_select_font_face(c, "sans", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
                cairo_set_font_size(c, text->size);
                ink(text->colour);
                cairo_move_to(c, text->at.x, text->at.y);
                cairo_show_text(c, text->words.c_str());
            }
        }
        cairo_show_page(c);
    }
    cairo_destroy(c);
    cairo_surface_finish(surface);
    cairo_surface_destroy(surface);
    return out.size();
}

/// Units on a ground of many cells that cross it in smooth lines.
void mapOfManyCells() {
    constexpr int kSide = 2000, kUnits = 8;
    auto project = loggedHoles(20);
    project.site = part(Site{"EPSG:25831", Frame{0, 0, kSide, kSide, 1}, {}});
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (int u = 0; u < kUnits; ++u) {
        Unit unit;
        unit.code = unit.name = std::string(1, char('A' + u));
        s.units.push_back(unit);
    }
    project.sequence = part(std::move(s));
    auto map = *std::ranges::find(shippedTemplates(), SheetKind::Map, &SheetTemplate::kind);
    map.contours = false;
    auto products = *Products().of(project, {}, wantedForSheet(map, ""));
    ModelGrid grid;
    grid.ground = Grid(Frame{0, 0, kSide, kSide, 1});
    grid.bases.assign(kUnits - 1, grid.ground);
    for (int r = 0; r < kSide; ++r)
        for (int c = 0; c < kSide; ++c) {
            const double ground = 40 + 12 * std::sin(c / 310.0) * std::cos(r / 270.0) + 2 * std::sin(c / 61.0 + r / 83.0);
            grid.ground.at(c, r) = ground;
            for (int u = 0; u + 1 < kUnits; ++u)
                grid.bases[std::size_t(u)].at(c, r) =
                    std::min(u > 0 ? grid.bases[std::size_t(u) - 1].at(c, r) : ground,
                             48.0 - 4 * u + 3 * std::sin(r / (190.0 + 20 * u)) * std::cos(c / 230.0));
        }
    products.modelGrid = std::make_shared<const ModelGrid>(std::move(grid));
    FilledSheet sheet;
    const double fill = seconds(1, [&] { sheet = fillSheet(map, "", products, "2026-01-01"); });
    std::size_t bytes = 0, corners = 0;
    const double write = seconds(1, [&] { bytes = paper::toPdf(sheet.pages).size(); });
    for (const auto& item : sheet.pages[0].items)
        if (const auto* area = std::get_if<paper::FilledArea>(&item.shape); area && item.layer == "map")
            for (const auto& ring : area->rings) corners += ring.size();
    fmt::print("  a geological map of {} cells as a vector PDF: {:.1f} s (10) and {:.1f} MB (20), {} corners\n", kSide * kSide,
               fill + write, double(bytes) / 1e6, corners);
}

} // namespace

void sheets() {
    const auto project = loggedHoles(200);
    auto log = shippedTemplates().front();
    log.scale = 50;
    const auto products = Products().of(project, {}, wantedForSheet(log, "BH000"));
    std::vector<paper::Drawing> pages;
    const double fill = seconds(3, [&] {
        pages.clear();
        for (const auto& item : itemsFor(log, project))
            for (auto& page : fillSheet(log, item, *products, "2026-01-01").pages) pages.push_back(std::move(page));
    });
    std::size_t bytes = 0;
    const double write = seconds(3, [&] { bytes = paper::toPdf(pages).size(); });
    const double bare = seconds(3, [&] { bareCairo(pages); });
    report(fmt::format("200 logs, {} pages, to one PDF of {:.1f} MB", pages.size(), double(bytes) / 1e6).c_str(), fill + write,
           bare, "bare Cairo", 3);
    fmt::print("  filling them {:.2f} s, writing them {:.2f} s; peak memory {:.0f} MB (500)\n", fill, write, peakMegabytes());
    const double one = seconds(5, [&] { fillSheet(log, "BH000", *products, ""); });
    const double pixels = seconds(5, [&] { paper::toBitmap(pages[0], 4); });
    fmt::print("  a template edit to the new page: {:.0f} ms filled, {:.0f} ms painted at 4 pixels a millimetre\n", 1000 * one,
               1000 * pixels);
    mapOfManyCells();
}

} // namespace fox::bench
