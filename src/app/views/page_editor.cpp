#include "views/page_editor.h"

#include "base/errors.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace fox::app {

namespace {

constexpr double kGrid = 1;    ///< millimetres that places snap to
constexpr double kCatch = 1.2; ///< from this near they snap to edges of others instead
constexpr double kLeast = 2;   ///< what an element keeps of its width and height, but for a line
constexpr double kLeastColumn = 4;

using Hold = PageEditor::Hold;

bool isLeft(Hold h) { return h == Hold::Left || h == Hold::TopLeft || h == Hold::BottomLeft; }
bool isRight(Hold h) { return h == Hold::Right || h == Hold::TopRight || h == Hold::BottomRight; }
bool isTop(Hold h) { return h == Hold::Top || h == Hold::TopLeft || h == Hold::TopRight; }
bool isBottom(Hold h) { return h == Hold::Bottom || h == Hold::BottomLeft || h == Hold::BottomRight; }

} // namespace

void PageEditor::setLayout(const SheetTemplate& layout, std::size_t page) {
    m_layout = layout;
    m_page = page;
    m_held = Hold::None;
    if (m_chosen && (*m_chosen >= m_layout.elements.size() || !isOnPage(m_layout.elements[*m_chosen]))) m_chosen.reset();
}

void PageEditor::choose(std::optional<std::size_t> element) {
    m_chosen = element && *element < m_layout.elements.size() ? element : std::nullopt;
}

QRectF PageEditor::boxOf(const SheetElement& e) { return QRectF(e.x, e.y, e.width, e.height).normalized(); }

bool PageEditor::isOnPage(const SheetElement& e) const {
    return e.pages == SheetElement::Pages::All || (e.pages == SheetElement::Pages::First) == (m_page == 0);
}

std::optional<std::size_t> PageEditor::elementAt(QPointF p) const {
    std::optional<std::size_t> best;
    double least = 0;
    for (std::size_t i = 0; i < m_layout.elements.size(); ++i) {
        if (!isOnPage(m_layout.elements[i])) continue;
        const auto box = boxOf(m_layout.elements[i]).adjusted(-0.5, -0.5, 0.5, 0.5); // lines have no area
        const double area = box.width() * box.height();
        if (box.contains(p) && (!best || area <= least)) best = i, least = area;
    }
    return best;
}

QRectF PageEditor::logBox() const {
    if (m_layout.kind != SheetKind::Log) return {};
    for (const auto& e : m_layout.elements)
        if (e.kind == SheetElement::Kind::Body && isOnPage(e)) return boxOf(e);
    return {};
}

/// Columns that are too wide together are drawn narrower in proportion.
std::vector<double> PageEditor::columnEdges() const {
    const auto body = logBox();
    double together = 0;
    for (const auto& c : m_layout.columns) together += c.width;
    const double share = together > 0 ? std::min(1.0, body.width() / together) : 1;
    std::vector<double> out;
    double x = body.left();
    for (const auto& c : m_layout.columns) out.push_back(x += c.width * share);
    return out;
}

std::optional<std::size_t> PageEditor::columnEdgeAt(QPointF p, double slack) const {
    const auto body = logBox();
    if (body.isEmpty() || p.y() < body.top() || p.y() > body.bottom()) return {};
    const auto edges = columnEdges();
    const auto at = std::ranges::find_if(edges, [&](double x) { return std::abs(p.x() - x) <= slack; });
    if (at == edges.end()) return {};
    return std::size_t(at - edges.begin());
}

std::optional<std::size_t> PageEditor::columnAt(QPointF p) const {
    if (!logBox().contains(p)) return {};
    const auto edges = columnEdges();
    const auto at = std::ranges::upper_bound(edges, p.x());
    if (at == edges.end()) return {};
    return std::size_t(at - edges.begin());
}

Hold PageEditor::holdAt(QPointF p, double slack) const {
    if (m_chosen) {
        const auto box = boxOf(m_layout.elements[*m_chosen]);
        const bool inX = p.x() > box.left() - slack && p.x() < box.right() + slack;
        const bool inY = p.y() > box.top() - slack && p.y() < box.bottom() + slack;
        const bool left = inY && std::abs(p.x() - box.left()) <= slack, right = inY && std::abs(p.x() - box.right()) <= slack;
        const bool top = inX && std::abs(p.y() - box.top()) <= slack, bottom = inX && std::abs(p.y() - box.bottom()) <= slack;
        if (right && bottom) return Hold::BottomRight;
        if (left && top) return Hold::TopLeft;
        if (right && top) return Hold::TopRight;
        if (left && bottom) return Hold::BottomLeft;
        if (right) return Hold::Right;
        if (left) return Hold::Left;
        if (bottom) return Hold::Bottom;
        if (top) return Hold::Top;
    }
    if (columnEdgeAt(p, slack)) return Hold::Column;
    // also where another one lies over it: a click chooses that one
    return m_chosen && boxOf(m_layout.elements[*m_chosen]).adjusted(-0.5, -0.5, 0.5, 0.5).contains(p) ? Hold::Inside : Hold::None;
}

bool PageEditor::press(QPointF p, double slack) {
    m_held = holdAt(p, slack);
    if (m_held == Hold::Column) m_column = *columnEdgeAt(p, slack);
    m_from = p;
    m_before = m_layout;
    return m_held != Hold::None;
}

/// To the edge of another element, or of the page's margins (those of the outermost elements), else to whole millimetres.
double PageEditor::snapped(double at, bool across, std::size_t but) const {
    double best = std::round(at / kGrid) * kGrid, nearest = kCatch;
    for (std::size_t i = 0; i < m_before.elements.size(); ++i) {
        if (i == but || !isOnPage(m_before.elements[i])) continue;
        const auto box = boxOf(m_before.elements[i]);
        for (const double edge : {across ? box.left() : box.top(), across ? box.right() : box.bottom()})
            if (std::abs(edge - at) < nearest) nearest = std::abs(edge - at), best = edge;
    }
    return best;
}

bool PageEditor::drag(QPointF to) {
    if (m_held == Hold::None) return false;
    auto now = m_before;
    const auto by = to - m_from;
    if (m_held == Hold::Column) {
        auto& c = now.columns[m_column];
        c.width = std::max(kLeastColumn, std::round(2 * (c.width + by.x())) / 2);
    } else {
        auto& e = now.elements[*m_chosen];
        const auto box = boxOf(e);
        const double least = e.kind == SheetElement::Kind::Line ? 0 : kLeast;
        QRectF moved = box;
        if (m_held == Hold::Inside) {
            moved.moveLeft(snapped(box.left() + by.x(), true, *m_chosen));
            moved.moveTop(snapped(box.top() + by.y(), false, *m_chosen));
        }
        if (isLeft(m_held)) moved.setLeft(std::min(box.right() - least, snapped(box.left() + by.x(), true, *m_chosen)));
        if (isRight(m_held)) moved.setRight(std::max(box.left() + least, snapped(box.right() + by.x(), true, *m_chosen)));
        if (isTop(m_held)) moved.setTop(std::min(box.bottom() - least, snapped(box.top() + by.y(), false, *m_chosen)));
        if (isBottom(m_held)) moved.setBottom(std::max(box.top() + least, snapped(box.bottom() + by.y(), false, *m_chosen)));
        // a corner at least stays on the page
        moved.moveLeft(std::clamp(moved.left(), -moved.width() + kLeast, m_layout.width - kLeast));
        moved.moveTop(std::clamp(moved.top(), -moved.height() + kLeast, m_layout.height - kLeast));
        e.x = moved.left(), e.y = moved.top(), e.width = moved.width(), e.height = moved.height();
    }
    if (now == m_layout) return false;
    m_layout = std::move(now);
    return true;
}

std::string PageEditor::release() {
    const auto held = std::exchange(m_held, Hold::None);
    if (held == Hold::None || m_layout == m_before) return {};
    return held == Hold::Column ? "width of a column" : held == Hold::Inside ? "move an element" : "size of an element";
}

void PageEditor::cancel() {
    if (m_held == Hold::None) return;
    m_layout = m_before;
    m_held = Hold::None;
}

bool PageEditor::moveChosen(double dx, double dy) {
    if (!m_chosen) return false;
    auto& e = m_layout.elements[*m_chosen];
    e.x += dx, e.y += dy;
    return true;
}

bool PageEditor::removeChosen() {
    if (!m_chosen) return false;
    m_layout.elements.erase(m_layout.elements.begin() + std::ptrdiff_t(*m_chosen));
    m_chosen.reset();
    return true;
}

std::string PageEditor::copied() const {
    if (!m_chosen) return {};
    SheetTemplate one;
    one.name = "element", one.kind = m_layout.kind;
    one.elements = {m_layout.elements[*m_chosen]};
    return toJson(one).dump(1);
}

bool PageEditor::paste(const std::string& text) {
    const auto j = nlohmann::json::parse(text, nullptr, false);
    if (!j.is_object()) return false;
    try {
        auto elements = fox::templateOf(j).elements;
        if (elements.empty()) return false;
        for (auto& e : elements) {
            e.x += 3 * kGrid, e.y += 3 * kGrid;
            m_layout.elements.push_back(std::move(e));
        }
        m_chosen = m_layout.elements.size() - 1;
        return true;
    } catch (const Error&) {
        return false; // a template of another version, or something else
    }
}

} // namespace fox::app
