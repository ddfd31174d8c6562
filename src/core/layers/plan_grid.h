#pragma once
#include "base/frame.h"

#include <optional>
#include <string>
#include <vector>

namespace fox {

/// Where rows and columns are parted more finely: along a line, or around a place (a line of one point).
struct FinerPart {
    Polyline2 line;
    double width = 0;    ///< metres: no cell that the line crosses is wider, in either direction
    double growth = 1.3; ///< neighbours differ by this factor at most
    bool operator==(const FinerPart&) const = default;
};

/// Columns and rows of a grid in plan, which may be turned and unevenly spaced. Column 0 is at the corner, row 0 too: the grid
/// has its north-west corner there where it is not turned.
class PlanGrid {
public:
    PlanGrid() = default;
    /// `turn`: degrees clockwise from east to the direction along which columns follow one another; rows follow at a right angle
    /// to it, southward. Widths in metres.
    /// @throws UsageError for a width that is not positive, or none; Error for more than limits::kGridCells
    PlanGrid(Point2 corner, double turn, std::vector<double> columns, std::vector<double> rows);
    explicit PlanGrid(const Frame&);

    int columns() const { return int(m_columns.size()) - 1; }
    int rows() const { return int(m_rows.size()) - 1; }
    std::size_t cells() const { return std::size_t(columns()) * std::size_t(rows()); }
    std::size_t index(int column, int row) const { return std::size_t(row) * std::size_t(columns()) + std::size_t(column); }
    Point2 corner() const { return m_corner; }
    double turn() const { return m_turn; }
    double width(int column) const { return m_columns[std::size_t(column) + 1] - m_columns[std::size_t(column)]; }
    double height(int row) const { return m_rows[std::size_t(row) + 1] - m_rows[std::size_t(row)]; }
    double area(std::size_t cell) const;

    /// A node of the grid: between columns and rows, 0 to columns() and 0 to rows().
    Point2 node(int column, int row) const { return placed(m_columns[std::size_t(column)], m_rows[std::size_t(row)]); }
    Point2 centre(int column, int row) const;
    std::vector<Point2> centres() const; ///< a cell, row by row
    Polygon2 outline() const;
    Box2 box() const;
    /// The cell in which a place lies; none outside.
    std::optional<std::size_t> cellAt(Point2) const;
    /// Cells that a line crosses, each once, in the order of the line, with where it is in the middle of its way there: the
    /// share of the line's length.
    struct Crossed {
        std::size_t cell;
        double share;
    };
    std::vector<Crossed> crossedBy(const Polyline2&) const;

    /// The same extent, finer at each part. Columns and rows that are far from all of them stay as they are.
    /// (Widths follow a size that grows by ln(growth) a metre; equal steps of its integral differ by the factor growth at most.)
    /// @throws UsageError for a width that is not positive or a growth of 1.01 or less
    PlanGrid finer(const std::vector<FinerPart>&) const;

    /// As a frame: not turned, all cells square and alike; else none.
    std::optional<Frame> frame() const;

    bool operator==(const PlanGrid&) const = default;

private:
    Point2 placed(double along, double down) const;
    Point2 local(Point2) const; ///< metres along the columns and down the rows

    Point2 m_corner;
    double m_turn = 0;
    std::vector<double> m_columns{0, 1}, m_rows{0, 1}; ///< edges, metres from the corner
};

/// The same cells elsewhere: moved by dx east and dy north.
PlanGrid movedBy(const PlanGrid&, double dx, double dy);
/// The same cells, turned about the middle of the grid until columns follow one another in this direction.
PlanGrid turnedTo(const PlanGrid&, double turn);
/// One corner pulled to a place while the opposite one stays: as many cells as come closest, one each way at least, all as wide
/// and high as the first. `corner`: 0 where column and row 0 are, then clockwise from above.
PlanGrid stretchedTo(const PlanGrid&, int corner, Point2 to);
/// Even cells of this width and height over the same extent, from the same middle, as many as cover it.
PlanGrid withCells(const PlanGrid&, double width);
/// From the same corner, so many even cells, as wide and high as the first.
PlanGrid withCount(const PlanGrid&, int columns, int rows);

} // namespace fox
