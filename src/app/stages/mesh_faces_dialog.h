#pragma once
#include "layers/mesh_spec.h"

#include <QDialog>

class QComboBox;
class QLineEdit;
class QSpinBox;

namespace fox::app {

/// Upright faces along a line of a mesh: their name, the layers that they go through, what they are made of.
class MeshFacesDialog : public QDialog {
    Q_OBJECT
public:
    MeshFacesDialog(MeshFaces, int layers, QWidget* parent);
    MeshFaces faces() const;

protected:
    void accept() override;

private:
    MeshFaces m_faces;
    QLineEdit *m_name, *m_conductivity, *m_thickness;
    QSpinBox *m_first, *m_last;
    QComboBox* m_flow;
};

} // namespace fox::app
