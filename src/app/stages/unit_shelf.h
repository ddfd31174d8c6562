#pragma once
#include "stages/shelf.h"

class QComboBox;

namespace fox::app {

/// A shelf whose card is about the selected unit.
class UnitShelf : public Shelf {
    Q_OBJECT
public:
    using Shelf::Shelf;

protected:
    std::optional<std::size_t> chosen() const; ///< its place in the sequence
    QComboBox* choice(const QStringList& items, int now, const std::function<void(int)>& changed);
};

} // namespace fox::app
