#pragma once
#include "model/where_to_drill.h"
#include "sequence/hole_values.h"
#include "views/ground_layer.h"

#include <set>

namespace fox::app {

class Selection;

/// Holes and predicted logs on a plan: symbols by kind, coloured and labelled by choice.
class HoleLayer {
public:
    enum class Label { None, Name, Kind, GroundLevel, FinalDepth, Value };
    void setProducts(std::shared_ptr<const ProductSet>);
    /// What holes are coloured by; none: by nothing.
    void setColouring(std::optional<HoleValue>);
    const std::optional<HoleValue>& colouring() const { return m_colouring; }
    /// Which holes are shown, by display name; none: all.
    void setShown(const std::optional<std::set<std::string>>& shown) { m_shown = shown; }
    void setLabel(Label label) { m_label = label; }
    Label label() const { return m_label; }

    /// Symbols go before all labels.
    void occupy(const PlanTransform&, Occupied&) const;
    /// `onSigns`: labels lie on hatches and need a ground of their own.
    void paint(QPainter&, const PlanTransform&, const Selection&, Occupied&, bool onSigns) const;
    void paintTrials(QPainter&, const PlanTransform&, const Selection&, Occupied&) const;
    void paintLegend(QPainter&, const PlanTransform&) const;
    /// The hole, or the predicted log, under a place of the view; an empty name if there is none.
    QString holeAt(const PlanTransform&, QPointF) const;
    QString trialAt(const PlanTransform&, QPointF) const;

private:
    void workOutValues();
    QString labelOf(std::size_t hole) const;
    void paintOne(QPainter&, std::size_t hole, QPointF at, bool selected, bool hovered) const;

    std::shared_ptr<const ProductSet> m_products;
    std::optional<HoleValue> m_colouring;
    Label m_label = Label::Name;
    bool isShown(std::size_t hole) const { return !m_shown || m_shown->contains(m_names[hole]); }
    std::optional<std::set<std::string>> m_shown;
    std::vector<std::string> m_names;            ///< of the holes, in their order
    std::vector<std::optional<double>> m_values; ///< what they are coloured by
    double m_low = 0, m_high = 1;
};

/// Positions for the next hole by their rank, with the share of the variance that is expected to go in %; the best kDrillPlaces.
void paintDrillPlaces(QPainter&, const PlanTransform&, const std::vector<DrillPlace>&, Occupied&);
inline constexpr std::size_t kDrillPlaces = 10;

/// The symbol of a hole: drilled a disc half filled, dug a square, pushed a triangle, others a diamond.
void paintHoleSymbol(QPainter&, QPointF, HoleKind, double size = 6, const QColor& fill = {});

} // namespace fox::app
