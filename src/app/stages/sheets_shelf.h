#pragma once
#include "stages/shelf.h"

namespace fox::app {

/// Templates of sheets to choose from, and what can be written of the chosen one.
class SheetsShelf : public Shelf {
    Q_OBJECT
public:
    SheetsShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {}; }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void itemRows();
};

} // namespace fox::app
