#pragma once
#include "products/products.h"
#include "views/upright_cut.h"

namespace fox::app {

/// How a block is cut open.
struct BlockCut {
    double south = 0, west = 0;     ///< share of the block, from that side, that is taken away
    std::optional<double> level;    ///< metres; what lies higher is taken away
    bool line = false;              ///< what lies to the right of the chosen section line is taken away
    std::vector<UprightCut> planes; ///< what lies on the right of each is taken away
    bool operator==(const BlockCut&) const = default;
    bool any() const { return south > 0 || west > 0 || level || line || !planes.empty(); }
};

/// The model's cells as a block view draws them: every so many of them, and only those that a cut leaves. A square between
/// four centres is there if all four are.
class BlockLattice {
public:
    /// No more than `mostNodes` cells are taken. `line` is the section that `cut` speaks of; null: none.
    BlockLattice(const ModelGrid*, const Grid& ground, double floor, const BlockCut&, const Polyline2* line,
                 std::size_t mostNodes);
    int columns() const { return int(m_columns.size()); }
    int rows() const { return int(m_rows.size()); }
    std::size_t nodes() const { return m_columns.size() * m_rows.size(); }
    Point2 place(int i, int j) const { return m_ground.frame.centre(m_columns[std::size_t(i)], m_rows[std::size_t(j)]); }
    /// The square from node i, j to the south-east; false outside.
    bool square(int i, int j) const;
    /// Levels at a node from the ground down: ground, bases, and the floor under the oldest unit; none above a level cut.
    std::vector<double> levels(int i, int j) const;
    double ground(int i, int j) const { return m_ground.at(m_columns[std::size_t(i)], m_rows[std::size_t(j)]); }
    /// The square from node i, j, as far as upright planes leave it: its corners round, with shares of the square from its
    /// north-west corner. Empty where it is whole, gone, or not known.
    std::vector<Point2> cutSquare(int i, int j) const;
    /// Calls use(i0, j0, i1, j1) for each edge of a square that has no square on its other side.
    template <typename Use>
    void eachRimEdge(const Use& use) const {
        for (int j = 0; j + 1 < rows(); ++j)
            for (int i = 0; i + 1 < columns(); ++i) {
                if (!square(i, j)) continue;
                // where a plane cuts the square beyond, what is left of it goes on to the face of the cut
                if (!square(i, j - 1) && !isCut(i, j - 1)) use(i, j, i + 1, j);
                if (!square(i, j + 1) && !isCut(i, j + 1)) use(i, j + 1, i + 1, j + 1);
                if (!square(i - 1, j) && !isCut(i - 1, j)) use(i, j, i, j + 1);
                if (!square(i + 1, j) && !isCut(i + 1, j)) use(i + 1, j, i + 1, j + 1);
            }
    }

private:
    const ModelGrid* m_grid;
    const Grid& m_ground;
    double m_floor;
    BlockCut m_cut;
    std::vector<int> m_columns, m_rows;
    bool isCut(int i, int j) const { return !m_cut.planes.empty() && !cutSquare(i, j).empty(); }
    std::vector<bool> m_kept;  ///< a node
    std::vector<bool> m_known; ///< a node that only upright planes may take away
};

} // namespace fox::app
