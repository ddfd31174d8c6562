#pragma once
#include "paper/sheet_template.h"

#include <QPointF>
#include <QRectF>
#include <optional>

class QPainter;

namespace fox::app {

/// What the hand does to the elements of a page, in millimetres from its top left corner: one is chosen, moved, made larger or
/// smaller by handles on its edges, and a log's columns are made wider or narrower. It knows nothing of widgets.
class PageEditor {
public:
    /// The layout that is edited, and which page of a sheet is looked at, from 0.
    void setLayout(const SheetTemplate&, std::size_t page);
    const SheetTemplate& layout() const { return m_layout; }

    std::optional<std::size_t> chosen() const { return m_chosen; } ///< an element
    void choose(std::optional<std::size_t> element);
    /// The smallest element at a place, and of the same size the last.
    std::optional<std::size_t> elementAt(QPointF) const;
    static QRectF boxOf(const SheetElement&);

    /// The column of a log at a place; none beside the log.
    std::optional<std::size_t> columnAt(QPointF) const;

    /// What a press at a place would take hold of. `slack`: how near to an edge counts, millimetres.
    enum class Hold { None, Inside, Left, Right, Top, Bottom, TopLeft, TopRight, BottomLeft, BottomRight, Column };
    Hold holdAt(QPointF, double slack) const;
    bool press(QPointF, double slack); ///< whether something is held: the chosen element, or the edge of a column
    bool drag(QPointF);                ///< whether the layout changed
    bool dragging() const { return m_held != Hold::None; }
    /// What was done, in words; empty: nothing.
    std::string release();
    void cancel(); ///< as it was before the press

    bool moveChosen(double dx, double dy);
    bool removeChosen();
    /// The chosen element as text that can be pasted into another page; empty: none is chosen.
    std::string copied() const;
    bool paste(const std::string& text); ///< a little beside where it was; false if the text is none of ours

private:
    double snapped(double at, bool across, std::size_t but) const;
    QRectF logBox() const;                   ///< of the columns of a log; empty: it is none
    std::vector<double> columnEdges() const; ///< the right ones
    std::optional<std::size_t> columnEdgeAt(QPointF, double slack) const;
    bool isOnPage(const SheetElement&) const;

    SheetTemplate m_layout, m_before;
    std::size_t m_page = 0;
    std::optional<std::size_t> m_chosen;
    Hold m_held = Hold::None;
    std::size_t m_column = 0;
    QPointF m_from;
};

} // namespace fox::app
