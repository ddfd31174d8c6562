#pragma once
#include "stages/unit_shelf.h"

class QTimer;

namespace fox::app {

/// How logs are read as units: what is not clear and what was decided by hand, and the chosen unit.
class SequenceShelf : public UnitShelf {
    Q_OBJECT
public:
    SequenceShelf(Selection*, QWidget* parent);

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void fillByHand();
    void fillContactPoints();
    void fillPlane();
    void cardPlane();
    void cardLook(const Unit&);

    QTimer* m_later;
};

} // namespace fox::app
