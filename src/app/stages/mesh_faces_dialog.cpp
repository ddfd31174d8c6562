#include "stages/mesh_faces_dialog.h"

#include "style/words.h"
#include "views/number_box.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QMessageBox>
#include <QSpinBox>

namespace fox::app {

MeshFacesDialog::MeshFacesDialog(MeshFaces faces, int layers, QWidget* parent) : QDialog(parent), m_faces(std::move(faces)) {
    setObjectName("meshFaces");
    setWindowTitle(tr("Faces along %1").arg(qt(m_faces.line)));
    auto* form = new QFormLayout(this);
    const auto field = [&](const QString& label, const char* name, const QString& text, const QString& tip) {
        auto* edit = new QLineEdit(text, this);
        edit->setObjectName(name);
        edit->setToolTip(tip);
        form->addRow(label, edit);
        return edit;
    };
    const auto layer = [&](const QString& label, const char* name, int value) {
        auto* box = new QSpinBox(this);
        box->setObjectName(name);
        box->setRange(1, std::max(1, layers));
        box->setValue(value);
        form->addRow(label, box);
        return box;
    };
    const auto number = [](const std::optional<double>& v) { return v ? QString::number(*v) : QString(); };
    m_name = field(tr("Name"), "facesName", qt(m_faces.name), tr("Of the feature, in the files that are written"));
    m_first = layer(tr("From layer"), "facesFirst", m_faces.first);
    m_last = layer(tr("To layer"), "facesLast", m_faces.last);
    m_conductivity = field(tr("Conductivity, m/s"), "facesConductivity", number(m_faces.conductivity), tr("May be empty"));
    m_thickness = field(tr("Thickness, m"), "facesThickness", number(m_faces.thickness), tr("May be empty"));
    m_flow = new QComboBox(this);
    m_flow->setObjectName("facesFlow");
    m_flow->addItems({tr("along them, as in an open fault"), tr("across them, as through a wall")});
    m_flow->setCurrentIndex(m_faces.along ? 0 : 1);
    form->addRow(tr("Water flows"), m_flow);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &MeshFacesDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

MeshFaces MeshFacesDialog::faces() const {
    auto out = m_faces;
    const auto number = [](const QLineEdit* edit) { return typedNumber(edit->text()); };
    out.name = m_name->text().trimmed().toStdString();
    out.first = std::min(m_first->value(), m_last->value()), out.last = std::max(m_first->value(), m_last->value());
    out.conductivity = number(m_conductivity), out.thickness = number(m_thickness);
    out.along = m_flow->currentIndex() == 0;
    return out;
}

void MeshFacesDialog::accept() {
    QString wrong;
    if (m_name->text().trimmed().isEmpty()) wrong = tr("The faces need a name.");
    for (const auto* edit : {m_conductivity, m_thickness})
        if (const auto number = typedNumber(edit->text()); !edit->text().trimmed().isEmpty() && !(number && *number > 0))
            wrong = tr("\"%1\" is not a number above 0.").arg(edit->text());
    if (!wrong.isEmpty()) return void(QMessageBox::warning(this, windowTitle(), wrong));
    QDialog::accept();
}

} // namespace fox::app
