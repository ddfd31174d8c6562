#include "sheets/sheet.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/web_text.h"
#include "model/model_along.h"
#include "paper/render.h"
#include "sequence/correlation.h"
#include "sequence/picked_logs.h"
#include "sheets/depth_texts.h"
#include "sheets/log_pages.h"
#include "sheets/plan_frame.h"
#include "sheets/scale.h"
#include "sheets/section_page.h"
#include "sheets/sheet_chart.h"
#include "sheets/sheet_table.h"
#include "sheets/sheet_values.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>
#include <mutex>
#include <set>

namespace fox {

using namespace paper;

namespace {

using Element = SheetElement;

Box2 boxOf(const Element& e) {
    Box2 out;
    out.include({e.x, e.y});
    out.include({e.x + e.width, e.y + e.height});
    return out;
}

/// Words in a box: broken to its width, made smaller as far as they stay legible. What does not fit is counted, and left out line
/// by line. Whether all of it is there.
bool addWords(Drawing& out, const std::string& words, const Element& e, const std::string& layer) {
    if (words.empty()) return true;
    constexpr double kLeast = 1.6; // millimetres
    double size = e.size;
    std::size_t tooNarrow = 0;
    auto lines = linesOf(words, e.width, size, tooNarrow);
    const auto high = [&] { return double(lines.size()) * size * 1.25; };
    while ((high() > e.height + 1e-6 || tooNarrow > 0) && size > kLeast + 1e-9) {
        size = std::max(kLeast, size - 0.2);
        tooNarrow = 0;
        lines = linesOf(words, e.width, size, tooNarrow);
    }
    bool fits = tooNarrow == 0;
    double y = e.y;
    for (const auto& l : lines) {
        if (y + size * 1.25 > e.y + e.height + 1e-6) {
            fits = false;
            break;
        }
        Text text{l, {e.x, y}, size, kInk};
        text.anchor = Text::Anchor::Top;
        text.strong = e.strong;
        if (e.align == Element::Align::Centre) text.at.x += e.width / 2, text.align = Text::Align::Centre;
        if (e.align == Element::Align::Right) text.at.x += e.width, text.align = Text::Align::Right;
        out.add(layer, "", std::move(text));
        y += size * 1.25;
    }
    return fits;
}

/// The picture of an element; null if it has none that can be read. Those read last are kept: a logo is on every page.
std::shared_ptr<const Picture> pictureOf(const std::string& letters) {
    if (letters.empty()) return nullptr;
    static std::mutex mutex;
    static std::vector<std::pair<std::string, std::shared_ptr<const Picture>>> kept;
    const std::scoped_lock lock(mutex);
    const auto found = std::ranges::find(kept, letters, &std::pair<std::string, std::shared_ptr<const Picture>>::first);
    if (found != kept.end()) return found->second;
    std::shared_ptr<const Picture> read;
    try {
        read = std::make_shared<Picture>(readPicture(fromBase64(letters), "the picture"));
    } catch (const Error&) {
    } // it is named among what is missing
    constexpr std::size_t kMost = 6;
    if (kept.size() == kMost) kept.erase(kept.begin());
    kept.emplace_back(letters, read);
    return read;
}

/// What a frame on a page is filled as.
struct FrameSheet {
    SheetTemplate layout;
    std::string item;
};
/// None if it is of no kind that can stand in a frame. Without an item of its own it is of the page's, if that is of its kind.
std::optional<FrameSheet> frameOf(const Element& e, const SheetTemplate& page, const std::string& pageItem) {
    const auto colon = e.what.find(':');
    const auto kind = sheetKindNamed(e.what.substr(0, colon));
    constexpr SheetKind kFramed[] = {SheetKind::Log, SheetKind::Section,  SheetKind::Plan,
                                     SheetKind::Map, SheetKind::Contours, SheetKind::Correlation};
    if (!kind || std::ranges::count(kFramed, *kind) == 0) return {};
    FrameSheet out;
    const auto like = std::ranges::find(shippedTemplates(), *kind, &SheetTemplate::kind);
    out.layout = *kind == page.kind ? page : *like;
    Element body = e;
    body.kind = Element::Kind::Body, body.pages = Element::Pages::All;
    out.layout.width = page.width, out.layout.height = page.height;
    out.layout.elements = {body};
    out.layout.blackAndWhite = false; // with the page
    if (*kind != page.kind) out.layout.scale = out.layout.verticalScale = 0;
    if (colon != e.what.npos)
        out.item = e.what.substr(colon + 1);
    else if (std::string_view(itemOf(*kind)) == itemOf(page.kind))
        out.item = pageItem;
    return out;
}

/// Fills one template with one item.
class Filler {
public:
    Filler(const SheetTemplate& t, const std::string& item, const ProductSet& products, const std::string& date,
           const std::vector<std::pair<std::string, std::size_t>>& listed)
        : m_t(t), m_products(products), m_listed(listed) {
        m_context.products = &products;
        m_context.date = date;
        m_context.item = item;
        m_out.item = item;
    }

    FilledSheet fill(std::size_t number, std::size_t numbers) {
        check();
        makeBody();
        m_context.scale = m_out.scale, m_context.verticalScale = m_out.verticalScale;
        for (std::size_t p = 0; p < m_bodies.size(); ++p) {
            m_context.page = number > 0 ? number + p : p + 1;
            m_context.pages = numbers > 0 ? numbers : m_bodies.size();
            Drawing page;
            page.width = m_t.width, page.height = m_t.height;
            for (const auto& e : m_t.elements)
                if (isOn(e, p)) addElement(page, e, p);
            if (m_t.blackAndWhite) toBlackAndWhite(page);
            m_out.pages.push_back(std::move(page));
        }
        return std::move(m_out);
    }

private:
    using Items = std::vector<Item>;
    const Project& project() const { return m_products.project; }

    static bool isOn(const Element& e, std::size_t page) {
        return e.pages == Element::Pages::All || (e.pages == Element::Pages::First) == (page == 0);
    }
    const Element* body(bool isFirst) const {
        for (const auto& e : m_t.elements)
            if (e.kind == Element::Kind::Body && isOn(e, isFirst ? 0 : 1)) return &e;
        return nullptr;
    }

    void check() {
        const std::string of = itemOf(m_t.kind);
        if (of.empty() != m_context.item.empty())
            throw Error(of.empty() ? fmt::format("\"{}\" takes no item; \"{}\" was given.", m_t.name, m_context.item)
                                   : fmt::format("\"{}\" needs a {}.", m_t.name, of));
        if (of == "hole") {
            m_context.hole = findHole(*project().holes, m_context.item);
            if (!m_context.hole) throw Error(fmt::format("There is no hole {}.", m_context.item));
            m_out.item = m_context.item = displayName(*project().holes, *m_context.hole);
        }
        if (of == "section" && !sectionIndex()) throw Error(fmt::format("There is no section {}.", m_context.item));
        if (of == "unit" && !project().sequence->index(m_context.item))
            throw Error(fmt::format("There is no unit {} in the sequence.", m_context.item));
    }
    std::optional<std::size_t> sectionIndex() const {
        const auto at = std::ranges::find(*project().sections, m_context.item, &SectionLine::name);
        return at == project().sections->end() ? std::nullopt : std::optional(std::size_t(at - project().sections->begin()));
    }

    void makeBody() {
        const auto* first = body(true);
        m_bodies.assign(1, {});
        if (!first) return;
        const auto* further = body(false);
        const auto box = boxOf(*first), next = further ? boxOf(*further) : box;
        switch (m_t.kind) {
        case SheetKind::Log: return makeLog(box, next);
        case SheetKind::Section: return makeSection(box);
        case SheetKind::Plan:
        case SheetKind::Map:
        case SheetKind::Contours: return makePlan(box);
        case SheetKind::Correlation: return makeCorrelation(box);
        case SheetKind::Summary: return makeTable(box, next, unitRows(m_products));
        case SheetKind::Key: return makeKey(box, next);
        case SheetKind::Title:
        case SheetKind::List: return makeTable(box, next, listRows());
        }
    }

    void makeLog(const Box2& first, const Box2& further) {
        LogContent content{m_context.hole, nullptr, project().sequence.get(), m_context.item, {}};
        content.water = *project().shownWater;
        for (const auto& read : m_products.reading->holes)
            if (read.hole == m_context.hole) content.reading = &read;
        const bool wantsModel = std::ranges::count(m_t.columns, LogColumn::Kind::Model, &LogColumn::kind) > 0;
        if (const auto path = HolePath::of(*m_context.hole);
            path && wantsModel && m_products.model && !m_products.model->bases.empty())
            content.model = modelAlong(*m_products.model, *path, m_context.hole->end().metres);
        auto log = layOutLog(m_t.columns, first, further, m_t.scale, content, m_products);
        m_out.scale = log.scale;
        m_out.overfull += log.overfull;
        m_out.withoutPattern = std::move(log.withoutPattern);
        m_out.withoutUnit = std::move(log.withoutUnit);
        m_bodies.clear();
        for (auto& p : log.pages) m_bodies.push_back(std::move(p.items));
    }

    void makeSection(const Box2& box) {
        const auto at = *sectionIndex();
        const auto& section = m_products.sections[at];
        if (!section) return;
        auto laid = layOutSection(m_t, box, (*project().sections)[at], *section, m_products);
        if (laid.pages.empty()) return;
        m_out.scale = laid.scale, m_out.verticalScale = laid.verticalScale;
        m_out.overfull += laid.overfull;
        m_bodies = std::move(laid.pages);
        for (const auto& u : project().sequence->units)
            if (patternOf(u) == Pattern::None) m_out.withoutPattern.push_back(u.code);
    }

    void makePlan(const Box2& box) {
        const auto unit = m_t.kind == SheetKind::Contours ? project().sequence->index(m_context.item) : std::nullopt;
        auto plan = drawPlanFrame(m_t, box, m_products, unit);
        m_out.scale = plan.scale;
        m_out.corner = plan.corner;
        m_out.withoutPattern = std::move(plan.withoutPattern);
        m_bodies = {std::move(plan.items)};
    }

    /// Holes near the section side by side at their levels, units drawn across between them.
    void makeCorrelation(const Box2& box) {
        const auto& line = (*project().sections)[*sectionIndex()];
        struct Column {
            const InterpretedHole* read;
            HolePath path;
            double chainage;
        };
        std::vector<Column> columns;
        const auto logs = withPicks(*m_products.reading, *project().sequence, *project().interpretation);
        double low = kNoValue, high = kNoValue;
        for (const auto& read : logs.holes) {
            const auto path = HolePath::of(*read.hole);
            if (!path) continue;
            const auto at = fox::project(line.line, path->at({}).plan());
            if (at.distance > std::max(line.reach, 60.0)) continue;
            columns.push_back({&read, *path, at.chainage});
            high = std::fmax(high, path->at({}).z), low = std::fmin(low, path->at(read.hole->end()).z);
        }
        if (columns.empty()) return;
        std::ranges::stable_sort(columns, {}, &Column::chainage);
        constexpr double kTop = 8, kHalf = 4;
        const double usable = box.height() - kTop - 4;
        m_out.verticalScale = m_t.verticalScale > 0 ? m_t.verticalScale : usualScale(1000 * std::max(1.0, high - low) / usable);
        const double perMetre = 1000 / m_out.verticalScale, apart = box.width() / double(columns.size());
        const auto y = [&](double level) { return box.ymin + kTop + (high - level) * perMetre; };
        const auto x = [&](std::size_t k) { return box.xmin + (double(k) + 0.5) * apart; };
        auto& items = m_bodies[0];
        const auto& units = project().sequence->units;
        for (std::size_t k = 0; k + 1 < columns.size(); ++k) {
            const auto left = stretchesOf(*columns[k].read, columns[k].path, units.size()),
                       right = stretchesOf(*columns[k + 1].read, columns[k + 1].path, units.size());
            for (const auto& b : unitsBetween(left, right)) {
                const double at[] = {x(k) + kHalf, (x(k) + x(k + 1)) / 2, x(k + 1) - kHalf};
                Polygon2 ring;
                for (int i = 0; i < 3; ++i) ring.push_back({at[i], y(b.top[i])});
                for (int i = 3; i-- > 0;) ring.push_back({at[i], y(b.base[i])});
                items.push_back({"between", units[b.unit].code,
                                 FilledArea{{std::move(ring)},
                                            Fill::plain(colourOf(units[b.unit]).withAlpha(b.open ? 60 : 120)),
                                            Pen{kMuted, 0.13, {}}},
                                 box});
            }
        }
        for (std::size_t k = 0; k < columns.size(); ++k) {
            for (const auto& i : columns[k].read->intervals)
                items.push_back({"column", units[i.unit].code,
                                 FilledArea{{rectangle(x(k) - kHalf, y(columns[k].path.at(i.top).z), x(k) + kHalf,
                                                       y(columns[k].path.at(i.base).z))},
                                            fillOf(units[i.unit]),
                                            Pen{kInk, 0.25, {}}},
                                 box});
            Element name{Element::Kind::Text, x(k) - apart / 2 + 0.5, box.ymin + 1, apart - 1, kTop - 2};
            name.size = 2.4, name.strong = true, name.align = Element::Align::Centre;
            Drawing words;
            if (!addWords(words, columns[k].read->name, name, "hole names")) ++m_out.overfull;
            for (auto& w : words.items) items.push_back(std::move(w));
        }
        for (const auto& u : units)
            if (patternOf(u) == Pattern::None) m_out.withoutPattern.push_back(u.code);
    }

    TableRows listRows() const {
        TableRows rows{{"Sheet", "Page"}};
        for (const auto& [title, page] : m_listed) rows.push_back({title, std::to_string(page)});
        return m_listed.empty() ? TableRows{} : rows;
    }

    void makeTable(const Box2& first, const Box2& further, const TableRows& rows) {
        if (rows.empty()) return;
        auto table = layOutTable(rows, first, further);
        m_out.overfull += table.overfull;
        m_bodies = std::move(table.pages);
    }

    /// Units with their patterns and names, one under the other, in as many columns as there is room for.
    void makeKey(const Box2& first, const Box2& further) {
        const auto& units = project().sequence->units;
        constexpr double kRowHigh = 9, kColumn = 80;
        m_bodies.clear();
        std::size_t next = 0;
        do {
            const auto& box = m_bodies.empty() ? first : further;
            auto& items = m_bodies.emplace_back();
            const auto rows = std::max<std::size_t>(1, std::size_t(box.height() / kRowHigh)),
                       columns = std::max<std::size_t>(1, std::size_t(box.width() / kColumn));
            for (std::size_t c = 0; c < columns; ++c)
                for (std::size_t r = 0; r < rows && next < units.size(); ++r, ++next)
                    addKeyEntry(items, units[next], box.xmin + double(c) * kColumn, box.ymin + double(r) * kRowHigh, kColumn - 4,
                                7);
        } while (next < units.size());
        for (const auto& u : units)
            if (patternOf(u) == Pattern::None) m_out.withoutPattern.push_back(u.code);
    }

    void addKeyEntry(Items& items, const Unit& unit, double x, double y, double width, double high) {
        const double swatch = high * 1.7;
        items.push_back(
            {"legend", unit.code, FilledArea{{rectangle(x, y, x + swatch, y + high)}, fillOf(unit), Pen{kInk, 0.25, {}}}, {}});
        Element words{Element::Kind::Text, x + swatch + 2, y, width - swatch - 2, high};
        words.size = std::min(3.0, high * 0.55);
        Drawing out;
        if (!addWords(out, unit.code == unit.name ? unit.name : unit.code + "  " + unit.name, words, "legend")) ++m_out.overfull;
        for (auto& w : out.items) items.push_back(std::move(w));
    }

    void addElement(Drawing& page, const Element& e, std::size_t p) {
        using Kind = Element::Kind;
        switch (e.kind) {
        case Kind::Text:
            if (!addWords(page, textOf(e.text, m_context), e, "text")) ++m_out.overfull;
            break;
        case Kind::Line: page.add("lines", "", Line{{{e.x, e.y}, {e.x + e.width, e.y + e.height}}, {kInk, e.pen, {}}}); break;
        case Kind::Box:
            page.add("lines", "", FilledArea{{rectangle(e.x, e.y, e.x + e.width, e.y + e.height)}, {}, Pen{kInk, e.pen, {}}});
            break;
        case Kind::Body:
            for (auto& item : m_bodies[p]) page.items.push_back(std::move(item));
            break;
        case Kind::Legend: addLegend(page, e); break;
        case Kind::ScaleBar: addScaleBar(page, e); break;
        case Kind::NorthArrow: {
            const double x = e.x + e.width / 2, high = e.height * 0.7;
            page.add("north", "",
                     FilledArea{{{{x, e.y + e.height - high}, {x + high / 4, e.y + e.height}, {x - high / 4, e.y + e.height}}},
                                Fill::plain(kInk),
                                std::nullopt});
            Text n{"N", {x, e.y + e.height - high - 0.5}, e.height * 0.25, kInk, Text::Align::Centre};
            page.add("north", "", std::move(n));
            break;
        }
        case Kind::IndexPlan: {
            auto small = m_t;
            small.kind = SheetKind::Plan, small.scale = 0;
            small.holeNames = small.grid = small.contours = false;
            small.centre.reset();
            auto plan = drawPlanFrame(small, boxOf(e), m_products, {}, m_context.item);
            for (auto& item : plan.items) page.items.push_back(std::move(item));
            break;
        }
        case Kind::Table: addTable(page, e); break;
        case Kind::Chart: addChart(page, e); break;
        case Kind::Picture: addPicture(page, e); break;
        case Kind::Frame: addFrame(page, e); break;
        }
    }

    /// What finds no room in its box is counted.
    void addTable(Drawing& page, const Element& e) {
        auto table = layOutTable(tableRows(e.what, m_products), boxOf(e), boxOf(e));
        if (table.pages.empty()) return;
        m_out.overfull += table.overfull + table.pages.size() - 1;
        for (auto& item : table.pages.front()) page.items.push_back(std::move(item));
    }

    void addChart(Drawing& page, const Element& e) {
        auto chart = drawSheetChart(e.what, m_products, e.width, e.height);
        if (!chart) {
            m_out.missing.push_back(e.what.empty() ? "a chart" : fmt::format("the chart \"{}\"", e.what));
            return;
        }
        for (auto& item : chart->items) {
            moveBy(item, {e.x, e.y});
            page.items.push_back(std::move(item));
        }
    }

    /// What a sheet of that kind has as its content, on one page.
    void addFrame(Drawing& page, const Element& e) {
        const auto frame = frameOf(e, m_t, m_context.item);
        const auto fail = [&] { m_out.missing.push_back(fmt::format("the frame \"{}\"", e.what)); };
        if (!frame) return fail();
        try {
            auto filled = Filler(frame->layout, frame->item, m_products, m_context.date, m_listed).fill(0, 0);
            m_out.overfull += filled.overfull + filled.pages.size() - 1;
            if (filled.pages[0].items.empty()) return fail();
            for (auto& item : filled.pages[0].items) page.items.push_back(std::move(item));
        } catch (const Error&) {
            fail(); // the section or hole is gone
        }
    }

    /// As large as its box allows, in its own proportions, in the middle.
    void addPicture(Drawing& page, const Element& e) {
        const auto picture = pictureOf(e.picture);
        if (!picture || picture->width == 0 || picture->height == 0) {
            m_out.missing.push_back(e.what == "block" ? "the picture of the block" : "a picture");
            return;
        }
        const double scale = std::min(e.width / picture->width, e.height / picture->height);
        const double wide = picture->width * scale, high = picture->height * scale;
        Image image{picture, {}, 1};
        image.box.include({e.x + (e.width - wide) / 2, e.y + (e.height - high) / 2});
        image.box.include({e.x + (e.width + wide) / 2, e.y + (e.height + high) / 2});
        page.add("picture", e.what, std::move(image));
    }

    void addLegend(Drawing& page, const Element& e) {
        const auto& units = project().sequence->units;
        if (units.empty()) return;
        constexpr double kLeastHigh = 3.4, kUsualHigh = 6, kUsualWide = 60; // millimetres
        double high = kUsualHigh;
        std::size_t columns = 1;
        const auto rows = [&] { return (units.size() + columns - 1) / columns; };
        const auto isTooHigh = [&] { return double(rows()) * high > e.height; };
        while (isTooHigh() && e.width / double(columns + 1) >= kUsualWide) ++columns;
        while (isTooHigh() && high > kLeastHigh) high -= 0.2;
        while (isTooHigh() && columns < units.size()) ++columns;
        const double wide = e.width / double(columns);
        for (std::size_t k = 0, c = 0; k < units.size(); ++c)
            for (std::size_t r = 0; r < rows() && k < units.size(); ++r, ++k)
                addKeyEntry(page.items, units[k], e.x + double(c) * wide, e.y + double(r) * high, wide - 1, high * 0.8);
    }

    void addScaleBar(Drawing& page, const Element& e) {
        if (!(m_out.scale > 0)) return;
        const double perMetre = 1000 / m_out.scale;
        double length = labelStep(e.width / perMetre / 2); // metres; the largest round one that fits
        while (length * perMetre > e.width - 12) length /= 2;
        const double y = e.y + e.height - 2, step = length * perMetre / 4;
        for (int k = 0; k < 4; ++k)
            page.add("scale bar", "",
                     FilledArea{{rectangle(e.x + k * step, y - 1.2, e.x + (k + 1) * step, y)},
                                Fill::plain(k % 2 ? kWhite : kInk),
                                Pen{kInk, 0.2, {}}});
        page.add("scale bar", "", Text{"0", {e.x, y - 2}, 2.2, kInk});
        page.add("scale bar", "", Text{labelWords(length) + " m", {e.x + 4 * step, y - 2}, 2.2, kInk, Text::Align::Centre});
    }

    const SheetTemplate& m_t;
    const ProductSet& m_products;
    const std::vector<std::pair<std::string, std::size_t>>& m_listed;
    SheetContext m_context;
    FilledSheet m_out;
    std::vector<Items> m_bodies; ///< a page each
};

} // namespace

Wanted wantedForSheet(const SheetTemplate& t, const std::string& item) {
    Wanted out{ProductKind::ImportedTables};
    if (t.kind == SheetKind::Section) out.sections.insert(item);
    if (t.kind == SheetKind::Plan || t.kind == SheetKind::Map) out.kinds.insert(ProductKind::Contours);
    for (const auto& e : t.elements)
        if (e.kind == Element::Kind::Frame)
            if (const auto frame = frameOf(e, t, item)) out.add(wantedForSheet(frame->layout, frame->item));
    const bool hasUnits =
        std::ranges::any_of(t.elements, [](const Element& e) { return e.kind == Element::Kind::Table && e.what == "units"; });
    if (t.kind == SheetKind::Map || t.kind == SheetKind::Contours || t.kind == SheetKind::Summary || hasUnits)
        out.kinds.insert(ProductKind::Grids);
    return out;
}

FilledSheet fillSheet(const SheetTemplate& t, const std::string& item, const ProductSet& products, const std::string& date,
                      const std::vector<std::pair<std::string, std::size_t>>& listed, std::size_t number, std::size_t numbers) {
    return Filler(t, item, products, date, listed).fill(number, numbers);
}

std::vector<std::string> notesOn(std::span<const FilledSheet> filled, const std::string& name) {
    std::vector<std::string> out;
    std::set<std::string> bare, missing, unitless;
    for (const auto& f : filled) {
        if (f.overfull > 0)
            out.push_back(fmt::format("{}: {}", f.item.empty() ? name : f.item,
                                      counted(f.overfull, "text finds no room.", "texts find no room.")));
        bare.insert(f.withoutPattern.begin(), f.withoutPattern.end());
        missing.insert(f.missing.begin(), f.missing.end());
        unitless.insert(f.withoutUnit.begin(), f.withoutUnit.end());
    }
    for (const auto& what : missing) out.push_back(fmt::format("There is nothing to show for {}.", what));
    if (!unitless.empty()) out.push_back(fmt::format("Values without a unit of measure: {}.", fmt::join(unitless, ", ")));
    if (!bare.empty()) out.push_back(fmt::format("Without a pattern: {}.", fmt::join(bare, ", ")));
    return out;
}

const SheetTemplate& layoutFor(const ReportEntry& sheet, const std::string& item, const Project& project) {
    if (sheet.others.empty() || std::string_view(itemOf(sheet.layout.kind)) != "hole") return sheet.layout;
    auto found = sheet.others.find(item);
    if (found == sheet.others.end())
        if (const auto* hole = findHole(*project.holes, item)) found = sheet.others.find(words(kindOf(*hole)));
    return found == sheet.others.end() ? sheet.layout : found->second;
}

std::vector<std::string> itemsFor(const SheetTemplate& t, const Project& project) {
    const std::string of = itemOf(t.kind);
    std::vector<std::string> out;
    if (of == "hole") return displayNames(*project.holes);
    if (of == "section")
        for (const auto& s : *project.sections) out.push_back(s.name);
    if (of == "unit")
        for (std::size_t u = 0; u < project.sequence->units.size(); ++u)
            if (u + 1 < project.sequence->units.size() || project.sequence->units[u].floor)
                out.push_back(project.sequence->units[u].code);
    if (of.empty()) out.emplace_back();
    return out;
}

} // namespace fox
