#pragma once
#include "stages/unit_shelf.h"

namespace fox::app {

/// The Model stage: units with volumes, agreement with the holes, faults, guides, sections; the card of the chosen base.
class ModelShelf : public UnitShelf {
    Q_OBJECT
public:
    ModelShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {ProductKind::Grids, ProductKind::Audit}; }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    bool hasNoModel() const;
    void fillAgreement(const Audit&);
    void fillChosenSection();
    void fillTrials();
    void fillCrossings();
    void fillFaults();
    void chooseStepped(const UnitFault&);
    void fillGuides();
    void fillPresence();
    void fillWater();
    void cardMethod(const Unit&, const BaseSurface&);
    void cardVariogram(const Unit&, const BaseSurface&);
    void cardFixed(const Unit&, const BaseSurface&);
};

} // namespace fox::app
