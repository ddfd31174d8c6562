#pragma once
#include "stages/shelf.h"

class QCheckBox;

namespace fox::app {

/// Sources of the ground and what of them counts, how it is made and drawn, and what was mended by hand.
class GroundShelf : public Shelf {
    Q_OBJECT
public:
    GroundShelf(Selection*, QWidget* parent);
    Wanted wanted() const override {
        return {ProductKind::GroundStatistics, ProductKind::Contours, ProductKind::Outliers, ProductKind::NamedSurfaces};
    }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void fillSources();
    void fillCodes();
    void fillOutlines();
    void fillPictures();
    void fillBackground();
    void backgroundMenu(const BackgroundLines&);
    void fillTerrain();
    void fillMending();
    void fillNamed();
    void namedMenu(const NamedSurface&);
    void addNamedMenu();
    void fillLook();
    void choice(QCheckBox*, const QString& right, const std::function<void()>& more = {});
};

} // namespace fox::app
