#include "dialogs/typed_value_dialog.h"

#include "style/words.h"
#include "views/number_box.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QSpinBox>

namespace fox::app {

TypedValueDialog::TypedValueDialog(const LayeredGrid& grid, const LayerLook& look, Polygon2 ring, QWidget* parent)
    : QDialog(parent), m_ring(std::move(ring)) {
    setObjectName("typedValue");
    setWindowTitle(tr("A value on cells"));
    auto* form = new QFormLayout(this);
    std::size_t inside = 0;
    for (const auto p : grid.plan.centres()) inside += contains(m_ring, p);
    form->addRow(new QLabel(tr("For %1 of each layer, over what they have from elsewhere.")
                                .arg(counted(qint64(std::max<std::size_t>(1, inside)), "cell")),
                            this));
    m_value = new QComboBox(this);
    m_value->setObjectName("typedKind");
    for (const auto& kind : cellValueKinds()) {
        m_value->addItem(*kind.unit ? tr("%1, %2").arg(qt(kind.words), qt(kind.unit)) : qt(kind.words), qt(kind.key));
        if (look.value == kind.key) m_value->setCurrentIndex(m_value->count() - 1);
    }
    m_number = new QLineEdit(this);
    m_number->setObjectName("typedNumber");
    m_number->setPlaceholderText(tr("such as 1e-5"));
    const auto layer = [&](const char* name, std::size_t value) {
        auto* box = new QSpinBox(this);
        box->setObjectName(name);
        box->setRange(1, int(grid.layers.size()));
        box->setValue(int(std::min(value, grid.layers.size() - 1)) + 1);
        return box;
    };
    m_first = layer("typedFirst", look.layer);
    m_last = layer("typedLast", look.layer);
    form->addRow(tr("Value"), m_value);
    form->addRow(tr("Number"), m_number);
    form->addRow(tr("From layer"), m_first);
    form->addRow(tr("To layer"), m_last);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &TypedValueDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    m_number->setFocus();
}

TypedValue TypedValueDialog::typed() const {
    const auto a = std::size_t(m_first->value() - 1), b = std::size_t(m_last->value() - 1);
    return {m_value->currentData().toString().toStdString(), typedNumber(m_number->text()).value_or(0), std::min(a, b),
            std::max(a, b), m_ring};
}

void TypedValueDialog::accept() {
    if (!typedNumber(m_number->text()))
        return void(QMessageBox::warning(this, windowTitle(), tr("\"%1\" is not a number.").arg(m_number->text())));
    QDialog::accept();
}

} // namespace fox::app
