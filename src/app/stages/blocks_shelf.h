#pragma once
#include "stages/shelf.h"
#include "views/background.h"

#include <QPointer>

namespace fox::app {

class CutOffPanel;

/// Block models, the cut-off, excavations: three parts, each with what it comes to.
class BlocksShelf : public Shelf {
    Q_OBJECT
public:
    BlocksShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {ProductKind::Blocks, ProductKind::Excavations}; }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    const BlockProduct* chosenBlocks() const;
    const ExcavationProduct* chosenDig() const;
    void lookChanged();
    void changeLook(const std::function<void(BlockLook&)>&);
    void changeBlocks(const std::string& model, const std::function<void(BlockSpec&)>&, const std::string& words);
    void changeDig(const std::string& dig, const std::function<void(ExcavationSpec&)>&, const std::string& words);

    void fillModels();
    void fillModel(const BlockProduct&);
    void fillOrigin(const BlockProduct&);
    void fillBlocks(const BlockSpec&, const BlockProduct&);
    void fillMethod(const BlockSpec&, const BlockProduct&);
    void fillUnits(const BlockSpec&);
    void fillVariogram(const BlockSpec&, const BlockProduct&);
    void setVariogram(const std::string& model, const Variogram&, double vertical);
    void fillCutOff(const BlockProduct&);
    void fillPlanLevel(const BlockModel&);
    void fillProbabilities(const BlockProduct&);
    void fillDigs();
    void fillDig(const ExcavationProduct&);
    void fillSlopes(const ExcavationSpec&);
    void fillSectors(const ExcavationSpec&);
    void fillBounds(const ExcavationSpec&);
    void fillWorth(const ExcavationSpec&);
    void fillReport(const ExcavationProduct&);
    void fillRange(const ExcavationProduct&);
    void askCutting(const std::string& name, const Polyline2& line);
    std::string askName(const std::string& now); ///< a new one; empty: none
    void chooseQuantity();
    void chooseTable();
    void addModel(BlockSpec::Of, const std::string& quantity, const std::string& file);
    void chooseWanted();
    void addDig(ExcavationSpec);

    QPointer<CutOffPanel> m_cutOff; ///< null if there is nothing to choose from
    BlockLook m_looked;             ///< that the panel shows
    QString m_refused;              ///< why probabilities could not be worked out
    std::optional<ExcavationRange> m_range;
    std::shared_ptr<const Excavation> m_rangeOf;
    QString m_rangeRefused;                                          ///< why there is none
    Background<std::shared_ptr<const BlockSimulation>> m_simulating; // last: they use the above
    Background<ExcavationRange> m_ranging;
};

} // namespace fox::app
