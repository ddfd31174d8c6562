#pragma once
#include "layers/layered_grid.h"
#include "views/layer_look.h"

#include <QDialog>

class QComboBox;
class QLineEdit;
class QSpinBox;

namespace fox::app {

/// Which value the cells within a ring get, in which layers of a grid.
class TypedValueDialog : public QDialog {
    Q_OBJECT
public:
    TypedValueDialog(const LayeredGrid&, const LayerLook&, Polygon2 ring, QWidget* parent);
    TypedValue typed() const;

protected:
    void accept() override;

private:
    Polygon2 m_ring;
    QComboBox* m_value;
    QLineEdit* m_number;
    QSpinBox *m_first, *m_last;
};

} // namespace fox::app
