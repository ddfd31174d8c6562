#include "ground/point_grid.h"

namespace fox {

PointGrid::PointGrid(std::span<const Point2> places) : m_places(places.begin(), places.end()) {
    for (const auto& p : m_places) m_box.include(p);
    if (m_places.empty()) return;
    const double squares = std::max(1.0, double(m_places.size()) / kPerSquare);
    const double ratio = m_box.height() > 0 ? std::clamp(m_box.width() / m_box.height(), 1e-3, 1e3) : 1e3;
    m_columns = std::clamp(int(std::sqrt(squares * ratio)), 1, 4096);
    m_rows = std::clamp(int(std::sqrt(squares / ratio)), 1, 4096);
    const auto of = [&](Point2 p) {
        return std::size_t(square(p.y, m_box.ymin, m_box.height(), m_rows)) * std::size_t(m_columns)
               + std::size_t(square(p.x, m_box.xmin, m_box.width(), m_columns));
    };
    m_begin.assign(std::size_t(m_columns) * std::size_t(m_rows) + 1, 0);
    for (const auto& p : m_places) ++m_begin[of(p) + 1];
    for (std::size_t i = 1; i < m_begin.size(); ++i) m_begin[i] += m_begin[i - 1];
    m_order.resize(m_places.size());
    auto next = m_begin;
    for (std::size_t i = 0; i < m_places.size(); ++i) m_order[next[of(m_places[i])]++] = std::uint32_t(i);
}

int PointGrid::square(double at, double low, double size, int count) const {
    return size > 0 ? std::clamp(int((at - low) / size * count), 0, count - 1) : 0;
}

void PointGrid::visit(const Box2& box, std::size_t enough, int most, const std::function<void(std::size_t)>& use) const {
    if (m_places.empty() || box.empty() || box.xmax < m_box.xmin || box.xmin > m_box.xmax || box.ymax < m_box.ymin
        || box.ymin > m_box.ymax)
        return;
    const int c0 = square(box.xmin, m_box.xmin, m_box.width(), m_columns),
              c1 = square(box.xmax, m_box.xmin, m_box.width(), m_columns);
    const int r0 = square(box.ymin, m_box.ymin, m_box.height(), m_rows),
              r1 = square(box.ymax, m_box.ymin, m_box.height(), m_rows);
    const bool few = std::size_t(c1 - c0 + 1) * std::size_t(r1 - r0 + 1) > enough;
    for (int r = r0; r <= r1; ++r)
        for (int c = c0; c <= c1; ++c) {
            const auto s = std::size_t(r) * std::size_t(m_columns) + std::size_t(c);
            const auto end = few ? std::min(m_begin[s + 1], m_begin[s] + std::uint32_t(most)) : m_begin[s + 1];
            for (auto i = m_begin[s]; i < end; ++i) {
                const auto& p = m_places[m_order[i]];
                if (p.x >= box.xmin && p.x <= box.xmax && p.y >= box.ymin && p.y <= box.ymax) use(m_order[i]);
            }
        }
}

} // namespace fox
