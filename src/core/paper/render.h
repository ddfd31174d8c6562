#pragma once
#include "formats/vector.h"
#include "paper/drawing.h"

#include <span>

namespace fox::paper {

/// What a PDF says of itself.
struct PdfWords {
    struct Bookmark {
        std::string words;
        std::size_t page; ///< from 0
    };
    std::string title = {}, subject = {};
    std::vector<Bookmark> bookmarks = {};
};
/// The drawings as one PDF, a page each; its text can be searched.
/// @throws Error if there is no page, or Cairo can't make it
std::string toPdf(std::span<const Drawing> pages, const PdfWords& = {});
/// A picture that can be scaled; letters are outlines.
std::string toSvg(const Drawing&);
/// @throws Error if it would have more than kMostPixels
std::string toPng(const Drawing&, double dotsPerInch = 150);
inline constexpr double kMostPixels = 2e8;
/// For the vector writer, in millimetres with y up: lines, outlines of areas, and text as labelled points, by layer. Patterns
/// and pictures have no place there.
std::vector<FeatureLayer> toLayers(const Drawing&);

/// Pixels, row by row from the top: 0xAARRGGBB with the colours multiplied by alpha.
struct Bitmap {
    int width = 0, height = 0;
    std::vector<std::uint32_t> pixels;
};
/// On nothing: what no item covers stays transparent.
Bitmap toBitmap(const Drawing&, double pixelsPerMillimetre);
/// One tile of a pattern, `side` pixels wide and high.
Bitmap patternBitmap(Pattern, Colour ink, int side);

/// How much room words take, in the shipped font.
struct TextSize {
    double width = 0, height = 0; ///< millimetres
    int lines = 0;
    bool cut = false; ///< not all of it is shown
};
TextSize measure(const Text&);

} // namespace fox::paper
