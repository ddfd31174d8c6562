#pragma once
#include "products/products.h"
#include "views/selection.h"

#include <QDialog>

class QLineEdit;

namespace fox::app {

class NumberBox;

/// Where the plane is put when the work with it begins: through the contacts of the unit's base, or else level, a little below
/// the middle of the holes' ground levels.
PlaneAssignment firstPlane(const ProductSet&, const std::string& unitCode);
/// The middle of the holes, where the level of a plane is given.
Point2 middleOfHoles(const ProductSet&);

/// Asks for a plane by its level in the middle of the holes, its dip and the direction it falls.
class PlaneByNumbers : public QDialog {
    Q_OBJECT
public:
    PlaneByNumbers(const Plane&, Point2 middle, QWidget* parent);
    Plane plane() const;

private:
    Point2 m_middle;
    NumberBox *m_level, *m_dip, *m_direction;
};

} // namespace fox::app
