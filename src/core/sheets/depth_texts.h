#pragma once
#include "paper/drawing.h"

namespace fox {

/// Words beside a depth.
struct DepthText {
    double top = 0; ///< metres
    std::string words;
    std::string name = {}; ///< of the item in the drawing
};

/// A line of words as it is placed.
struct PlacedLine {
    std::string words, name;
    double y = 0;           ///< its top, millimetres
    std::size_t text = 0;   ///< of which text
    bool isFirst = false;   ///< of its text on this page
    bool continues = false; ///< the text began on a page before
};

/// Breaks words to a width in the shipped font. A word that is wider is broken within; `tooNarrow` counts those of which not even
/// a letter fits, which are left out.
std::vector<std::string> linesOf(const std::string& words, double width, double size, std::size_t& tooNarrow);

/// Texts beside depths, page by page: each at its depth or, where the one before still goes on, under it; what finds no room goes
/// on at the top of the next page. Nothing is cut, nothing overlaps. `texts` by depth.
class DepthTexts {
public:
    DepthTexts(std::vector<DepthText> texts, double width, double size);
    /// Those that begin by the page's last depth, and what is left of pages before. `yOf` is for depths of this page; lines lie
    /// from `top` to `bottom`.
    template <typename YOf>
    std::vector<PlacedLine> page(double lastDepth, double top, double bottom, const YOf& yOf) {
        std::vector<PlacedLine> out;
        double free = top;
        while (m_next < m_texts.size() && (m_line > 0 || m_texts[m_next].top < lastDepth)) {
            const auto& lines = m_lines[m_next];
            double y = m_line > 0 ? top : std::max(free, std::clamp(yOf(m_texts[m_next].top), top, bottom));
            const bool continues = m_line > 0;
            bool isFirst = true;
            for (; m_line < lines.size(); ++m_line, y += lineHeight()) {
                if (y + lineHeight() > bottom + 1e-6) return out; // the rest on the next page
                out.push_back({lines[m_line], m_texts[m_next].name, y, m_next, isFirst, continues});
                isFirst = false;
            }
            free = y + kGap;
            ++m_next, m_line = 0;
        }
        return out;
    }
    bool isLeft() const { return m_next < m_texts.size(); } ///< something has not been placed
    std::size_t tooNarrow() const { return m_tooNarrow; }
    double lineHeight() const { return m_size * 1.3; }
    const DepthText& text(std::size_t i) const { return m_texts[i]; }

private:
    static constexpr double kGap = 0.5; // millimetres between two texts
    std::vector<DepthText> m_texts;
    std::vector<std::vector<std::string>> m_lines;
    double m_size;
    std::size_t m_next = 0, m_line = 0, m_tooNarrow = 0;
};

} // namespace fox
