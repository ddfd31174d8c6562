#pragma once
#include "model/ensemble.h"
#include "products/products.h"
#include "views/background.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace fox::app {

/// Volumes by unit: of the whole site or inside an outline, of all of it or above a level, a depth or a surface; with a range
/// from equally likely models if it is asked for. It stays open and follows the model.
class VolumesSheet : public QDialog {
    Q_OBJECT
public:
    VolumesSheet(std::shared_ptr<const ProductSet>, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    bool settled() const { return !m_counting.busy() && !m_reading.busy() && !m_work.busy(); }
    /// The table as it stands, separated by tabs.
    QString asText() const;
    /// What is counted lies above this grid, in the project's system; read beside the window, and failed() if it can't be.
    void takeSurface(const QString& file);

signals:
    void failed(const QString& sentence);

private:
    enum class Above { All, Level, Depth, Surface };
    void fill();
    void workOut();
    void showVolumes(const Volumes&);
    void showRanges(const Ensemble&);
    void askSurface();
    void leaveSurface();
    Area area() const;
    /// Makes the surface above which is counted, on the frame of a ground; none: all. Of the choices as they are now.
    std::function<std::optional<Grid>(const Grid& ground)> floorMaker() const;

    std::shared_ptr<const ProductSet> m_products;
    QComboBox *m_outline, *m_above;
    QDoubleSpinBox* m_metres;
    QPushButton *m_surface, *m_range;
    QTableWidget* m_table;
    QLabel* m_words;
    std::shared_ptr<const Grid> m_given; ///< a surface from a file
    QString m_givenName;
    Volumes m_volumes;
    int m_asked = 0; ///< counts what was asked to be shown
    struct GivenSurface {
        std::shared_ptr<const Grid> levels;
        Findings findings;
    };
    Background<GivenSurface> m_reading;
    Background<Volumes> m_counting;
    Background<Ensemble> m_work; // last: they use the above
};

} // namespace fox::app
