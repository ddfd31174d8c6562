#pragma once
#include "products/products.h"
#include "project/ground_edits.h"

#include <QDialog>
#include <QImage>

class QCheckBox;
class QLabel;
class QPushButton;
class QSlider;
class QTableWidget;
class QTableWidgetItem;

namespace fox::app {

/// The picture itself: the wheel zooms, dragging moves, a click sets or moves a mark.
class MarkCanvas : public QWidget {
    Q_OBJECT
public:
    MarkCanvas(QImage, QWidget* parent);
    void setMarks(std::vector<Point2> pixels, int chosen);
    QSize sizeHint() const override { return {520, 420}; }
    QPointF screenOf(Point2 pixel) const { return m_origin + QPointF(pixel.x, pixel.y) * m_scale; }

signals:
    void picked(fox::Point2 pixel);

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    QImage m_image;
    std::vector<Point2> m_marks;
    int m_chosen = -1;
    double m_scale = 0;
    QPointF m_origin, m_pressed;
    bool m_dragged = false;
};

/// Places a picture on the plan by marks: a spot on the picture, and its coordinates typed or pointed at on the plan.
/// Residuals show as soon as there are enough marks. How strongly it shows, and whether it is draped in 3D.
class PictureSheet : public QDialog {
    Q_OBJECT
public:
    PictureSheet(std::shared_ptr<const ProductSet>, const QString& file, QWidget* parent);
    /// Opacity and draping as the project has them now; closes if the picture is gone. Control points stay as they stand here
    /// until they are applied.
    void follow(const Project&);
    /// The spot on the plan for the chosen mark.
    void setPlace(Point2);

signals:
    void editMade(const fox::Edit&);
    void placeAsked(); ///< to be pointed at on the plan
    void sourceAsked(const QString& file);

private:
    void addMark(Point2 pixel);
    void fillTable();
    void takeTable();
    std::optional<double> numberIn(QTableWidgetItem&); ///< what is not a number is marked
    void showFit();
    void place();

    std::shared_ptr<const ProductSet> m_products;
    PlacedPicture m_picture;
    std::vector<Point2> m_pixels;
    std::vector<std::optional<Point2>> m_places;
    MarkCanvas* m_canvas;
    QTableWidget* m_table;
    QLabel* m_words;
    QSlider* m_opacity;
    QCheckBox* m_draped;
    QPushButton* m_place;
    bool m_filling = false;
};

} // namespace fox::app
