#include "stages/unit_shelf.h"

#include <QComboBox>

namespace fox::app {

std::optional<std::size_t> UnitShelf::chosen() const {
    return products()->project.sequence->index(selection()->unit().toStdString());
}

QComboBox* UnitShelf::choice(const QStringList& items, int now, const std::function<void(int)>& changed) {
    auto* box = new QComboBox;
    box->addItems(items);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // long choices do not widen the panel
    box->setCurrentIndex(now);
    connect(box, &QComboBox::activated, this, changed);
    return box;
}

} // namespace fox::app
