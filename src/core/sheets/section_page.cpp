#include "sheets/section_page.h"

#include "model/model_along.h"
#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/section_drawing.h"

namespace fox {

using namespace paper;

namespace {

class SectionPager {
public:
    SectionPager(const SheetTemplate& t, const Box2& box, const SectionLine& line, const Section& section,
                 const ProductSet& products)
        : m_t(t), m_line(line), m_section(section), m_products(products) {
        m_layout.width = t.width, m_layout.height = t.height;
        m_layout.area.include({box.xmin + kLeft, box.ymin});
        m_layout.area.include({box.xmax - kRight, box.ymax - kFoot});
        m_style.text = 2.4;
        m_style.forPaper = true;
        if (!t.beside.empty()) {
            auto values = alongValues({AlongChoice::Kind::Quantity, t.beside}, *products.project.holes, *products.reading);
            m_style.colours.low = std::min(0.0, values.low), m_style.colours.high = values.high;
            m_style.along = std::make_shared<const AlongValues>(std::move(values));
            m_style.graph = true;
        }
    }

    SectionPages layOut() {
        const auto levels = levelsOf(m_section).value_or(std::pair(0.0, 1.0));
        const double length = m_section.chainage.back(), wide = m_layout.area.width(), high = m_layout.area.height() - kNames - 3;
        auto& out = m_out;
        out.scale = m_t.scale > 0 ? m_t.scale : usualScale(1000 * std::max(1.0, length) / (wide - 6));
        out.verticalScale =
            m_t.verticalScale > 0 ? m_t.verticalScale : usualScale(1000 * std::max(1.0, levels.second - levels.first) / high);
        out.verticalScale = std::min(out.verticalScale, out.scale);
        if (1000 * (levels.second - levels.first) / out.verticalScale > m_layout.area.height())
            ++out.overfull; // heights that the scale can't show
        m_layout.perMetre = 1000 / out.scale;
        m_layout.exaggeration = out.scale / out.verticalScale;
        m_layout.highestLevel = levels.second + kNames / (m_layout.perMetre * m_layout.exaggeration);
        const double perPage = (wide - kOverlap) / m_layout.perMetre;
        const auto pages =
            std::size_t(std::max(1.0, std::ceil((length * m_layout.perMetre - kOverlap + 6) / (wide - kOverlap) - 1e-9)));
        constexpr std::size_t kMostPages = 200;
        for (std::size_t p = 0; p < std::min(pages, kMostPages); ++p) {
            m_layout.firstChainage = -3 / m_layout.perMetre + double(p) * perPage;
            out.pages.push_back(drawSection(m_section, *m_products.project.sequence, m_layout, m_style).items);
            if (m_t.uncertainty) addBands();
            addCrossings();
            const auto& a = m_layout.area;
            out.pages.back().push_back(
                {"frame", "", FilledArea{{rectangle(a.xmin, a.ymin, a.xmax, a.ymax)}, {}, Pen{kInk, 0.3, {}}}, {}});
        }
        return std::move(m_out);
    }

private:
    static constexpr double kLeft = 13, kRight = 13, kFoot = 6, kNames = 9, kOverlap = 10; ///< millimetres
    static constexpr double kShare = 1.2816;                                               ///< of the deviation, for 80 %

    void add(const char* layer, const std::string& name, Shape shape) {
        m_out.pages.back().push_back({layer, name, std::move(shape), m_layout.area});
    }

    /// Dashed, over and under each base, where its method tells a deviation and the unit has a thickness.
    void addBands() {
        for (std::size_t u = 0; u < m_section.bases.size() && u < m_section.deviations.size(); ++u)
            for (const double side : {-kShare, kShare}) {
                Line line{{}, {kMuted, 0.18, {0.8, 0.6}}};
                const auto end = [&] {
                    if (line.points.size() > 1) add("uncertainty", m_products.project.sequence->units[u].code, line);
                    line.points.clear();
                };
                for (std::size_t i = 0; i < m_section.chainage.size(); ++i) {
                    const double top = u == 0 ? m_section.ground[i] : m_section.bases[u - 1][i], base = m_section.bases[u][i];
                    const double level = base + side * m_section.deviations[u][i];
                    constexpr double kThin = 0.05; // metres: the unit is not there
                    if (std::isnan(level) || !(top - base > kThin))
                        end();
                    else
                        line.points.push_back(
                            {m_layout.x(m_section.chainage[i]), m_layout.y(std::min(level, m_section.ground[i]))});
                }
                end();
            }
    }

    void addCrossings() {
        const auto& a = m_layout.area;
        for (const auto& other : *m_products.project.sections) {
            if (other.name == m_line.name) continue;
            for (const auto& crossing : crossingsOf(m_section.line, other.line)) {
                const double x = m_layout.x(crossing.first);
                if (x < a.xmin + 3 || x > a.xmax - 3) continue;
                add("crossings", other.name, Line{{{x, a.ymin + 4}, {x, a.ymax}}, {kSlate, 0.25, {3, 1, 0.6, 1}}});
                Text name{other.name, {x, a.ymin + 3.2}, m_style.text, kSlate, Text::Align::Centre};
                name.halo = kWhite;
                add("crossings", other.name, std::move(name));
            }
        }
    }

    const SheetTemplate& m_t;
    const SectionLine& m_line;
    const Section& m_section;
    const ProductSet& m_products;
    SectionLayout m_layout;
    SectionStyle m_style;
    SectionPages m_out;
};

} // namespace

SectionPages layOutSection(const SheetTemplate& t, const Box2& box, const SectionLine& line, const Section& section,
                           const ProductSet& products) {
    if (section.chainage.empty()) return {};
    return SectionPager(t, box, line, section, products).layOut();
}

} // namespace fox
