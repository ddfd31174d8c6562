#pragma once
#include "products/products.h"
#include "project/edits.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QTableWidget;

namespace fox::app {

class GridMap;
class WaterChoiceBox;

/// One water surface: which reading of which points, of which unit's water, by which method; a map of its levels or of its depths
/// below the ground. It stays open beside the window and follows it; every change is an edit at once.
class WaterSheet : public QDialog {
    Q_OBJECT
public:
    explicit WaterSheet(QWidget* parent);
    void setSurface(const QString& name);
    /// Products with water surfaces.
    void setProducts(std::shared_ptr<const ProductSet>);

signals:
    void editMade(const fox::Edit&);
    void holeChosen(const QString& hole);
    void showAsked(const QString& surface, bool depth); ///< on the plan
    void renamed(const QString& from, const QString& to);

private:
    void fill();
    void fillUnits(const WaterSurface&);
    void fillMethods(const WaterSurface&, const FittedWaterSurface&);
    void fillPoints(const FittedWaterSurface&);
    void fillMap(const WaterProduct&);
    QString factsOf(const WaterProduct&) const;
    void rename();
    /// A change of this surface as an edit; `words` for its label.
    void change(const std::function<void(WaterSurface&)>&, const std::string& words);

    std::shared_ptr<const ProductSet> m_products;
    QString m_surface;
    QLineEdit* m_name;
    WaterChoiceBox* m_reading;
    QComboBox *m_unit, *m_method, *m_shows;
    QDoubleSpinBox* m_reach;
    QTableWidget* m_points;
    GridMap* m_map;
    QLabel* m_facts;
    bool m_filling = false;
};

} // namespace fox::app
