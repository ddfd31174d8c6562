#include "surfaces/grid_surface.h"

namespace fox {

namespace {

class GridSurface : public Surface {
public:
    explicit GridSurface(std::shared_ptr<const Grid> grid) : m_grid(std::move(grid)) {}

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = valueAt(places[i]);
        std::ranges::fill(variances, kNoValue);
    }

private:
    /// The two cells to either side of a position counted in cells from the first centre, and the second one's share.
    struct Between {
        int first, second;
        double share;
    };
    static Between between(double position, int count) {
        const double at = std::clamp(position, 0.0, double(count - 1));
        const int first = std::min(int(at), std::max(0, count - 2));
        return {first, std::min(first + 1, count - 1), at - first};
    }

    double valueAt(Point2 p) const {
        const auto& f = m_grid->frame;
        const double x = (p.x - f.xmin) / f.cell - 0.5, y = (f.ymax - p.y) / f.cell - 0.5;
        if (!(x >= -0.5 && y >= -0.5 && x <= f.columns() - 0.5 && y <= f.rows() - 0.5)) return kNoValue;
        const auto across = between(x, f.columns()), down = between(y, f.rows());
        double sum = 0;
        for (const auto& [row, rowShare] : {std::pair{down.first, 1 - down.share}, {down.second, down.share}})
            for (const auto& [column, share] : {std::pair{across.first, 1 - across.share}, {across.second, across.share}})
                if (rowShare * share > 0) sum += rowShare * share * m_grid->at(column, row);
        return sum;
    }

    std::shared_ptr<const Grid> m_grid;
};

} // namespace

std::shared_ptr<const Surface> gridSurface(std::shared_ptr<const Grid> grid) {
    return std::make_shared<GridSurface>(std::move(grid));
}

Grid onFrame(const Grid& grid, const Frame& frame) {
    if (grid.frame == frame) return grid;
    const GridSurface surface(std::make_shared<const Grid>(grid));
    Grid out(frame);
    std::vector<Point2> row;
    const auto columns = std::size_t(frame.columns());
    for (int r = 0; r < frame.rows(); ++r) {
        row.clear();
        for (int c = 0; c < frame.columns(); ++c) row.push_back(frame.centre(c, r));
        surface.evaluate(row, std::span(out.values).subspan(std::size_t(r) * columns, columns), {});
    }
    return out;
}

} // namespace fox
