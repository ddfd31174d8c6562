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
    void changeSystem(const std::string& typed); ///< asks what is meant if there are data
    void cardFrame();

    bool m_asking = false; ///< a question about the system is open
};

/// "1.5 × 1.0 km"
QString extentInWords(const Frame&);

} // namespace fox::app
