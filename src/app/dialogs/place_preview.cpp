#include "dialogs/place_preview.h"

#include "style/theme.h"

#include <QCoreApplication>

namespace fox::app {

namespace {

constexpr std::size_t kDots = 20000; // dots, and vertices of lines
constexpr int kPixels = 400;         // of an image, on its longer side

/// Every so many, so that no more than kDots are left.
template <typename T, typename Take>
void someOf(const T& all, const Take& take) {
    for (std::size_t i = 0; i < all.size(); i += all.size() / kDots + 1) take(all[i]);
}

void addLines(PlacePreview& out, const std::vector<Polyline3>& lines, std::size_t stride) {
    for (const auto& line : lines) {
        auto& drawn = out.lines.emplace_back();
        for (std::size_t i = 0; i < line.size(); i += stride) drawn.push_back(line[i].plan());
        if (!line.empty()) drawn.push_back(line.back().plan());
    }
}

void addLines(PlacePreview& out, const GroundLines& lines) {
    if (!lines.objects.empty()) {
        out.objects = lines.objects;
        return;
    }
    const auto stride = lines.verticesKept / kDots + 1; // ends of a line stay
    addLines(out, lines.lines, stride);
    for (const auto& other : lines.others) addLines(out, other.lines, stride);
    someOf(lines.points, [&](const SurveyPoint& p) { out.dots.push_back(p.place.plan()); });
    for (const auto& outline : lines.outlines) {
        auto& area = out.areas.emplace_back();
        area.push_back(outline.shape.ring);
        area.insert(area.end(), outline.shape.holes.begin(), outline.shape.holes.end());
    }
}

void addGrid(PlacePreview& out, const Grid& grid) {
    const auto& f = grid.frame;
    const int stride = std::max(f.columns(), f.rows()) / kPixels + 1;
    double low = kNoValue, high = kNoValue;
    for (const double v : grid.values) low = std::fmin(low, v), high = std::fmax(high, v);
    const double span = high > low ? high - low : 1;
    out.image = QImage((f.columns() + stride - 1) / stride, (f.rows() + stride - 1) / stride, QImage::Format_ARGB32);
    for (int r = 0; r < out.image.height(); ++r)
        for (int c = 0; c < out.image.width(); ++c) {
            const double v = grid.at(c * stride, r * stride);
            out.image.setPixel(c, r, std::isnan(v) ? 0 : valueColour((v - low) / span).rgb());
        }
    out.placing = {f.xmin, f.cell * stride, 0, f.ymax, 0, -f.cell * stride};
}

void addPicture(PlacePreview& out, const Picture& picture) {
    const QImage all(picture.rgba.data(), picture.width, picture.height, QImage::Format_RGBA8888);
    out.image = all.scaled(kPixels, kPixels, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    out.imagePlaced = picture.georeference.has_value();
    if (!out.imagePlaced) return;
    const auto& t = *picture.georeference;
    const double wide = double(picture.width) / out.image.width(), high = double(picture.height) / out.image.height();
    out.placing = {t[0], t[1] * wide, t[2] * high, t[3], t[4] * wide, t[5] * high};
}

} // namespace

PlacePreview placePreview(const ImportPreview& u) {
    PlacePreview out;
    for (const auto& h : u.holes)
        if (const auto p = h.place()) out.dots.push_back(*p);
    if (u.survey) someOf(u.survey->points, [&](const SurveyPoint& p) { out.dots.push_back(p.place.plan()); });
    if (u.contacts)
        someOf(u.contacts->points, [&](const ContactPoint& p) {
            if (p.hole.empty()) out.dots.push_back(p.place.plan());
        });
    if (u.values && !u.values->sources.empty())
        someOf(*u.values->sources.front().points, [&](const ValuePoint& p) { out.dots.push_back(p.place.plan()); });
    if (u.lines) addLines(out, *u.lines);
    if (u.asksForOrder())
        out.emptyWords = QCoreApplication::translate("fox::app::PlaceMap", "The points are drawn here once the order is chosen.");
    if (u.grid) addGrid(out, *u.grid);
    if (u.picture) addPicture(out, *u.picture);
    return out;
}

} // namespace fox::app
