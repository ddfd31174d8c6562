#pragma once
#include <QRectF>
#include <QSize>
#include <algorithm>
#include <vector>

namespace fox::app {

/// Which part of the screen has something on it, in squares of a few pixels: labels keep out of each other's way.
class Occupied {
public:
    explicit Occupied(const QSize& size)
        : m_columns(size.width() / kSquare + 1),
          m_rows(size.height() / kSquare + 1),
          m_taken(std::size_t(m_columns * m_rows), false) {}
    bool free(const QRectF& box) const {
        return each(box, [&](std::size_t i) { return !m_taken[i]; });
    }
    void take(const QRectF& box) {
        each(box, [&](std::size_t i) { return m_taken[i] = true; });
    }

private:
    static constexpr int kSquare = 4; // pixels
    /// Until use(square) is false; whether it never was.
    template <typename Use>
    bool each(const QRectF& box, Use&& use) const {
        const int left = std::max(0, int(box.left()) / kSquare), right = std::min(m_columns - 1, int(box.right()) / kSquare);
        const int top = std::max(0, int(box.top()) / kSquare), bottom = std::min(m_rows - 1, int(box.bottom()) / kSquare);
        for (int r = top; r <= bottom; ++r)
            for (int c = left; c <= right; ++c)
                if (!use(std::size_t(r * m_columns + c))) return false;
        return true;
    }
    int m_columns, m_rows;
    mutable std::vector<bool> m_taken;
};

} // namespace fox::app
