#include "blocks/block_proposal.h"

namespace fox {

namespace {

/// 1, 2 or 5 by a power of ten, not above.
double roundLength(double v) {
    const double ten = std::pow(10, std::floor(std::log10(std::max(v, 1e-3))));
    return v < 2 * ten ? ten : v < 5 * ten ? 2 * ten : 5 * ten;
}

Box2 boxOf(std::span<const Composite> values) {
    Box2 out;
    for (const auto& c : values) out.include(c.place.plan());
    return out;
}

} // namespace

Frame aroundValues(std::span<const Composite> values, const BlockSpec& spec) {
    const auto box = boxOf(values);
    const double x = std::max(box.width() / 10, spec.dx), y = std::max(box.height() / 10, spec.dy);
    return {std::floor(box.xmin - x), std::floor(box.ymin - y), std::ceil(box.xmax + x), std::ceil(box.ymax + y), 1};
}

BlockSpec proposedBlocks(BlockSpec spec, const Frame& site, std::span<const Composite> values) {
    if (values.empty()) return spec;
    constexpr double kAcross = 60, kHigh = 20; // blocks
    constexpr double kSmallPart = 0.25;        // of the site's area
    const auto box = boxOf(values);
    const double width = site.xmax - site.xmin, height = site.ymax - site.ymin;
    const bool inSmallPart = box.width() > 0 && box.height() > 0 && box.width() * box.height() < kSmallPart * width * height
                             && std::max(box.width(), box.height()) < std::max(width, height) / 2;
    spec.dx = spec.dy = roundLength((inSmallPart ? std::max(box.width(), box.height()) : std::max(width, height)) / kAcross);
    if (inSmallPart) spec.extent = aroundValues(values, spec);
    double low = kNoValue, high = kNoValue;
    for (const auto& c : values) low = std::fmin(low, c.place.z), high = std::fmax(high, c.place.z);
    spec.fromLevel = std::floor(low), spec.toLevel = std::max(std::ceil(high), spec.fromLevel + 1);
    spec.dz = roundLength((spec.toLevel - spec.fromLevel) / kHigh);
    if (spec.of == BlockSpec::Of::Curve) spec.composite = spec.dz;
    spec.verticalFitted = true;
    return spec;
}

} // namespace fox
