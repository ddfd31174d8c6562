#pragma once
#include "sheets/sheet.h"
#include "views/background.h"
#include "views/page_editor.h"
#include "views/view.h"

#include <QImage>

class QMenu;

namespace fox::app {

/// A page of a sheet as it is printed: the chosen sheet or template, filled with what is selected. Pages are turned by the tools
/// or by Page Up and Page Down. It is laid out where it is seen: an element is chosen by a click, moved and sized by the mouse,
/// moved by the arrow keys; a template that is in no report yet is added to it by the first change.
class PageView : public PannedView {
    Q_OBJECT
public:
    PageView(Selection*, QWidget* parent);
    QString title() const override { return tr("Page"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_fit, m_back, m_on, m_insert, m_moveMap}; }
    bool settled() const override;
    Wanted wanted(const Project&) const override;

    const std::shared_ptr<const FilledSheet>& sheet() const { return m_sheet; } ///< null: nothing to show
    std::size_t page() const { return m_page; }
    void turn(int pages); ///< on, or back
    const PageEditor& editor() const { return m_editor; }
    void choose(std::optional<std::size_t> element);
    /// Changes the layout, as an edit. `words` say what is changed.
    void change(const std::function<void(SheetTemplate&)>&, const std::string& words);
    QPointF screenOf(QPointF millimetres) const { return toScreen(millimetres.x(), -millimetres.y()); }

protected:
    void productsChanged() override;
    QRectF worldBounds() const override;
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void clicked(QPointF) override;

private:
    void choiceChanged();
    QPointF onPage(QPointF pixels) const; ///< millimetres
    double slack() const;                 ///< how near to an edge counts, millimetres
    void chooseWhatToInsert();
    void insert(SheetElement);
    void insertPicture();
    void addFrames(QMenu&, const std::function<void(SheetElement::Kind, const std::string&)>& insertOf);
    /// The frame of a plan under a place on the page, while its map is to be moved; null: none.
    const SheetElement* mapFrameAt(QPointF millimetres) const;
    std::optional<Point2> mapCentre() const; ///< easting and northing in the middle of its frame
    void moveMap(QPointF to);                ///< millimetres
    void showDraft();                        ///< the editor's layout while it is dragged
    void keep(const std::string& words);     ///< the editor's layout as an edit
    void paintHandles(QPainter&) const;
    bool editByKey(QKeyEvent*);
    void fill();
    void filled(FilledSheet);
    void paintAgain(double pixelsPerMillimetre);
    const paper::Drawing* drawing() const;

    QAction *m_fit, *m_back, *m_on, *m_moveMap, *m_insert;
    /// The map that is being moved in its frame: where the hand took it, millimetres, and what was in the middle then.
    struct MapDrag {
        QPointF from;
        Point2 centre;
        double scale = 0;
        SheetTemplate before;
    };
    std::optional<MapDrag> m_mapDrag;
    PageEditor m_editor;
    std::optional<std::size_t> m_hovered; ///< an element
    std::optional<SheetTemplate> m_draft; ///< shown in place of the layout until an edit has it
    std::shared_ptr<const FilledSheet> m_sheet;
    QString m_refused; ///< why there is none
    std::size_t m_page = 0;
    QImage m_image;
    const paper::Drawing* m_imageOf = nullptr;
    double m_imageScale = 0;
    Background<FilledSheet> m_filling; // last: they use the above
    Background<QImage> m_painting;
};

} // namespace fox::app
