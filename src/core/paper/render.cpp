#include "paper/render.h"

#include "base/errors.h"
#include "paper/text_layout.h"

#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace fox::paper {

namespace {

constexpr double kPointsPerMillimetre = 72 / 25.4;

struct Closing {
    void operator()(cairo_t* c) const { cairo_destroy(c); }
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
    void operator()(cairo_pattern_t* p) const { cairo_pattern_destroy(p); }
};
using Context = std::unique_ptr<cairo_t, Closing>;
using Surface = std::unique_ptr<cairo_surface_t, Closing>;
using Tile = std::unique_ptr<cairo_pattern_t, Closing>;

void check(cairo_status_t status) {
    if (status != CAIRO_STATUS_SUCCESS)
        throw Error(fmt::format("The drawing can't be made: {}.", cairo_status_to_string(status)));
}

cairo_status_t append(void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

/// Draws items on a Cairo context whose unit is a millimetre.
class Painter {
public:
    explicit Painter(cairo_t* c) : m_c(c) {}

    void draw(const Drawing& drawing) {
        for (const auto& item : drawing.items) {
            cairo_save(m_c);
            if (item.clip) {
                cairo_rectangle(m_c, item.clip->xmin, item.clip->ymin, item.clip->width(), item.clip->height());
                cairo_clip(m_c);
            }
            std::visit([&](const auto& shape) { draw(shape); }, item.shape);
            cairo_restore(m_c);
        }
        check(cairo_status(m_c));
    }

    void drawMarks(const PatternMarks& marks, Colour ink) {
        setColour(ink);
        cairo_set_line_width(m_c, marks.width);
        cairo_set_line_cap(m_c, CAIRO_LINE_CAP_ROUND);
        for (const auto& s : marks.strokes) {
            path(s);
            cairo_stroke(m_c);
        }
        for (const auto& p : marks.dots) {
            cairo_arc(m_c, p.x, p.y, PatternMarks::kDot / 2, 0, 2 * std::numbers::pi);
            cairo_fill(m_c);
        }
    }

private:
    void setColour(Colour c) { cairo_set_source_rgba(m_c, c.red / 255.0, c.green / 255.0, c.blue / 255.0, c.alpha / 255.0); }

    void path(std::span<const Point2> points) {
        bool first = true;
        for (const auto& p : points) {
            if (!std::isfinite(p.x) || !std::isfinite(p.y)) continue;
            first ? cairo_move_to(m_c, p.x, p.y) : cairo_line_to(m_c, p.x, p.y);
            first = false;
        }
    }

    void stroke(const Pen& pen) {
        setColour(pen.colour);
        cairo_set_line_width(m_c, pen.width);
        cairo_set_line_join(m_c, CAIRO_LINE_JOIN_ROUND);
        if (!pen.dashes.empty()) cairo_set_dash(m_c, pen.dashes.data(), int(pen.dashes.size()), 0);
        cairo_stroke(m_c);
    }

    void draw(const Line& line) {
        if (line.points.size() < 2) return;
        path(line.points);
        stroke(line.pen);
    }

    void draw(const FilledArea& area) {
        for (const auto& ring : area.rings) {
            path(ring);
            cairo_close_path(m_c);
        }
        cairo_set_fill_rule(m_c, CAIRO_FILL_RULE_EVEN_ODD);
        if (area.fill.colour) {
            setColour(*area.fill.colour);
            cairo_fill_preserve(m_c);
        }
        if (area.fill.pattern != Pattern::None) {
            const auto tile = tileOf(area.fill.pattern, area.fill.patternInk);
            cairo_set_source(m_c, tile.get());
            cairo_fill_preserve(m_c);
        }
        area.outline ? stroke(*area.outline) : cairo_new_path(m_c);
    }

    /// A tile as a drawing of its own, so that it stays sharp at any scale; on pixels it is a bitmap, which is quicker.
    Tile tileOf(Pattern pattern, Colour ink) {
        const bool pixels = cairo_surface_get_type(cairo_get_target(m_c)) == CAIRO_SURFACE_TYPE_IMAGE;
        double perUnit = kPatternTile / PatternMarks::kSide, x = 0;
        Surface surface;
        if (pixels) {
            double scale = 1;
            cairo_user_to_device_distance(m_c, &scale, &x);
            const int side = std::max(4, int(std::lround(kPatternTile * scale)));
            surface.reset(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, side, side));
            perUnit = side / PatternMarks::kSide;
        } else {
            const cairo_rectangle_t box{0, 0, kPatternTile, kPatternTile};
            surface.reset(cairo_recording_surface_create(CAIRO_CONTENT_COLOR_ALPHA, &box));
        }
        const Context on(cairo_create(surface.get()));
        cairo_scale(on.get(), perUnit, perUnit);
        Painter(on.get()).drawMarks(marksOf(pattern), ink);
        Tile tile(cairo_pattern_create_for_surface(surface.get()));
        cairo_pattern_set_extend(tile.get(), CAIRO_EXTEND_REPEAT);
        if (pixels) { // the tile's pixels are the picture's
            cairo_matrix_t matrix;
            const double scale = cairo_image_surface_get_width(surface.get()) / kPatternTile;
            cairo_matrix_init_scale(&matrix, scale, scale);
            cairo_pattern_set_matrix(tile.get(), &matrix);
        }
        return tile;
    }

    void draw(const Text& text) {
        if (text.words.empty()) return;
        const TextLayout layout(text);
        cairo_translate(m_c, text.at.x, text.at.y);
        if (text.turn != 0) cairo_rotate(m_c, text.turn * std::numbers::pi / 180);
        const auto offset = layout.offset();
        cairo_translate(m_c, offset.x, offset.y);
        if (text.halo) {
            setColour(*text.halo);
            layout.outline(m_c);
            cairo_set_line_join(m_c, CAIRO_LINE_JOIN_ROUND);
            cairo_set_line_width(m_c, text.size * 0.3);
            cairo_stroke(m_c);
        }
        setColour(text.colour);
        layout.show(m_c);
    }

    void draw(const Image& image) {
        if (!image.picture || image.picture->width <= 0 || image.picture->height <= 0) return;
        const auto& p = *image.picture;
        Surface surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, p.width, p.height));
        check(cairo_surface_status(surface.get()));
        auto* pixels = cairo_image_surface_get_data(surface.get());
        const int stride = cairo_image_surface_get_stride(surface.get());
        for (int row = 0; row < p.height; ++row) {
            auto* to = reinterpret_cast<std::uint32_t*>(pixels + std::ptrdiff_t(row) * stride);
            const auto* from = p.rgba.data() + std::size_t(row) * std::size_t(p.width) * 4;
            for (int column = 0; column < p.width; ++column, from += 4) {
                const std::uint32_t a = from[3];
                const auto part = [&](int k) { return std::uint32_t(from[k]) * a / 255; };
                to[column] = a << 24 | part(0) << 16 | part(1) << 8 | part(2);
            }
        }
        cairo_surface_mark_dirty(surface.get());
        cairo_translate(m_c, image.box.xmin, image.box.ymin);
        cairo_scale(m_c, image.box.width() / p.width, image.box.height() / p.height);
        cairo_set_source_surface(m_c, surface.get(), 0, 0);
        cairo_pattern_set_extend(cairo_get_source(m_c), CAIRO_EXTEND_PAD); // its edge is not mixed with nothing
        cairo_rectangle(m_c, 0, 0, p.width, p.height);
        cairo_clip(m_c);
        cairo_paint_with_alpha(m_c, image.opacity);
    }

    cairo_t* m_c;
};

Bitmap taken(cairo_surface_t* surface) {
    cairo_surface_flush(surface);
    Bitmap out{cairo_image_surface_get_width(surface), cairo_image_surface_get_height(surface), {}};
    out.pixels.reserve(std::size_t(out.width) * std::size_t(out.height));
    const auto* bytes = cairo_image_surface_get_data(surface);
    for (int row = 0; row < out.height; ++row) {
        const auto* from =
            reinterpret_cast<const std::uint32_t*>(bytes + std::ptrdiff_t(row) * cairo_image_surface_get_stride(surface));
        out.pixels.insert(out.pixels.end(), from, from + out.width);
    }
    return out;
}

Surface painted(const Drawing& drawing, double pixelsPerMillimetre) {
    const double width = std::ceil(drawing.width * pixelsPerMillimetre), height = std::ceil(drawing.height * pixelsPerMillimetre);
    if (!(width * height <= kMostPixels))
        throw Error(fmt::format("The picture would have {:.0f} by {:.0f} pixels; choose fewer dots per inch.", width, height));
    Surface surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, std::max(1, int(width)), std::max(1, int(height))));
    check(cairo_surface_status(surface.get()));
    const Context c(cairo_create(surface.get()));
    cairo_scale(c.get(), pixelsPerMillimetre, pixelsPerMillimetre);
    Painter(c.get()).draw(drawing);
    return surface;
}

} // namespace

Polygon2 circle(Point2 centre, double radius) {
    constexpr int kCorners = 24;
    Polygon2 out;
    for (int i = 0; i < kCorners; ++i) {
        const double t = 2 * std::numbers::pi * i / kCorners;
        out.push_back({centre.x + radius * std::cos(t), centre.y + radius * std::sin(t)});
    }
    return out;
}

std::string toPdf(std::span<const Drawing> pages, const PdfWords& words) {
    if (pages.empty()) throw Error("There is no page to write.");
    std::string out;
    {
        Surface surface(cairo_pdf_surface_create_for_stream(append, &out, pages.front().width * kPointsPerMillimetre,
                                                            pages.front().height * kPointsPerMillimetre));
        cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_CREATOR, "Fox Cellar");
        if (!words.title.empty()) cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_TITLE, words.title.c_str());
        if (!words.subject.empty())
            cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_SUBJECT, words.subject.c_str());
        for (const auto& b : words.bookmarks)
            cairo_pdf_surface_add_outline(surface.get(), CAIRO_PDF_OUTLINE_ROOT, b.words.c_str(),
                                          fmt::format("page={}", b.page + 1).c_str(), CAIRO_PDF_OUTLINE_FLAG_OPEN);
        for (const auto& page : pages) {
            cairo_pdf_surface_set_size(surface.get(), page.width * kPointsPerMillimetre, page.height * kPointsPerMillimetre);
            const Context c(cairo_create(surface.get()));
            cairo_scale(c.get(), kPointsPerMillimetre, kPointsPerMillimetre);
            Painter(c.get()).draw(page);
            cairo_show_page(c.get());
        }
        cairo_surface_finish(surface.get());
        check(cairo_surface_status(surface.get()));
    }
    return out;
}

std::string toSvg(const Drawing& drawing) {
    std::string out;
    {
        Surface surface(cairo_svg_surface_create_for_stream(append, &out, drawing.width, drawing.height));
        cairo_svg_surface_set_document_unit(surface.get(), CAIRO_SVG_UNIT_MM);
        const Context c(cairo_create(surface.get()));
        Painter(c.get()).draw(drawing);
        cairo_surface_finish(surface.get());
        check(cairo_surface_status(surface.get()));
    }
    return out;
}

std::string toPng(const Drawing& drawing, double dotsPerInch) {
    auto page = drawing; // paper is white
    page.items.insert(page.items.begin(),
                      Item{"paper", "", FilledArea{{rectangle(0, 0, page.width, page.height)}, {kWhite, Pattern::None, {}}, {}}});
    const auto surface = painted(page, dotsPerInch / 25.4);
    std::string out;
    check(cairo_surface_write_to_png_stream(surface.get(), append, &out));
    return out;
}

Bitmap toBitmap(const Drawing& drawing, double pixelsPerMillimetre) { return taken(painted(drawing, pixelsPerMillimetre).get()); }

Bitmap patternBitmap(Pattern pattern, Colour ink, int side) {
    Surface surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, side, side));
    const Context c(cairo_create(surface.get()));
    cairo_scale(c.get(), side / PatternMarks::kSide, side / PatternMarks::kSide);
    Painter(c.get()).drawMarks(marksOf(pattern), ink);
    return taken(surface.get());
}

std::vector<FeatureLayer> toLayers(const Drawing& drawing) {
    std::vector<FeatureLayer> out;
    const auto on = [&](const std::string& name) -> std::vector<Feature>& {
        for (auto& layer : out)
            if (layer.name == name) return layer.features;
        return out.emplace_back(FeatureLayer{name, "", {}}).features;
    };
    const auto turned = [&](Point2 p) { return Point3{p.x, drawing.height - p.y, 0}; };
    for (const auto& item : drawing.items) {
        if (const auto* line = std::get_if<Line>(&item.shape)) {
            if (line->points.size() < 2) continue;
            Feature f{GeometryKind::Line, {{}}, false, {}};
            for (const auto& p : line->points) f.parts[0].push_back(turned(p));
            on(item.layer).push_back(std::move(f));
        } else if (const auto* area = std::get_if<FilledArea>(&item.shape)) {
            Feature f{GeometryKind::Line, {}, false, {}};
            for (const auto& ring : area->rings) {
                if (ring.size() < 3) continue;
                auto& part = f.parts.emplace_back();
                for (const auto& p : ring) part.push_back(turned(p));
                part.push_back(turned(ring.front()));
            }
            if (!f.parts.empty()) on(item.layer).push_back(std::move(f));
        } else if (const auto* text = std::get_if<Text>(&item.shape); text && !text->words.empty()) {
            on(item.layer).push_back({GeometryKind::Point, {{turned(text->at)}}, false, {}, text->words});
        }
    }
    return out;
}

TextSize measure(const Text& text) { return text.words.empty() ? TextSize{} : TextLayout(text).size(); }

} // namespace fox::paper
