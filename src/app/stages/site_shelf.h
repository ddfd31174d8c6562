#pragma once
#include "stages/shelf.h"

namespace fox::app {

/// Coordinate system, extent and cells of the site, and what there is.
class SiteShelf : public Shelf {
    Q_OBJECT
public:
    SiteShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {ProductKind::Grids}; }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void fillLimit();
    void cardSystem();
    void cardFrame();
};

/// "1.5 × 1.0 km"
QString extentInWords(const Frame&);

} // namespace fox::app
