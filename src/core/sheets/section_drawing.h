#pragma once
#include "model/section.h"
#include "paper/colour_scale.h"
#include "paper/drawing.h"
#include "sequence/along_holes.h"
#include "sequence/unit.h"

namespace fox {

/// Where a section lies on its paper, and how large it is. Lengths in millimetres of the paper.
struct SectionLayout {
    double width = 360, height = 200; ///< of the drawing
    Box2 area;                        ///< that the section is drawn in; scales lie left of it and under it
    double firstChainage = 0;         ///< metres, at the area's left edge
    double highestLevel = 0;          ///< metres, at its upper edge
    double perMetre = 1;              ///< millimetres a metre along the line
    double exaggeration = 1;          ///< of levels against chainages
    bool operator==(const SectionLayout&) const = default;

    double x(double chainage) const { return area.xmin + (chainage - firstChainage) * perMetre; }
    double y(double level) const { return area.ymin + (highestLevel - level) * perMetre * exaggeration; }
    double chainageAt(double x) const { return firstChainage + (x - area.xmin) / perMetre; }
    double levelAt(double y) const { return highestLevel - (y - area.ymin) / (perMetre * exaggeration); }
};

/// A rectangle of one value on a section: a block that it passes through.
struct SectionCell {
    double from = 0, to = 0, low = 0, high = 0; ///< metres along the line, and levels
    paper::Colour colour;
    bool operator==(const SectionCell&) const = default;
};

/// What of a section is drawn.
struct SectionStyle {
    double stick = 2.6;                ///< millimetres, width of a hole's column
    double text = 2.9;                 ///< millimetres, size of names and figures
    std::optional<std::size_t> strong; ///< a unit that is shown in full, the others faded; none: all in full
    std::string marked;                ///< the name of a hole that is set off from the others; empty: none
    /// What the sticks show in place of units, for the project's holes; null: units.
    std::shared_ptr<const AlongValues> along;
    paper::ValueColours colours; ///< of a quantity along holes
    bool graph = false;          ///< a quantity stands as a graph beside the stick too
    double graphWidth = 12;      ///< millimetres
    /// Samples and water by hole of the project; null: only the water that the section has.
    std::shared_ptr<const std::vector<std::vector<AlongSign>>> signs;
    /// Values in blocks, over the units; null: none.
    std::shared_ptr<const std::vector<SectionCell>> cells;
    /// A dug surface as places of chainage and level, NaN between its pieces; null: none.
    std::shared_ptr<const std::vector<Point2>> dug;
    /// Sticks have units with their patterns and values beside them only; levels stand on the right too.
    bool forPaper = false;
    bool operator==(const SectionStyle&) const = default;
};

/// A section: layers "units" (by code), "bases" (by code), "presence" (where units end, by code), "ground", "holes", "water",
/// "water surfaces" and "surfaces" (by name), "background" (lines only to look at, by their layer), "contacts" (that are in no
/// hole, by code), "short" (holes that stop short of the oldest unit) and "hole names" (by hole), "values" and "graphs" (along
/// holes, by hole), "blocks", "dug", "samples" (by hole), "scales". The oldest unit goes down to the area's lower edge. Nothing
/// is drawn outside the area but the scales. A section without places gives a drawing without items.
paper::Drawing drawSection(const Section&, const Sequence&, const SectionLayout&, const SectionStyle& = {});

/// The same on a sheet of its own: title, scales and a key to the units; `exaggeration` >= 1. As wide as an A3 page.
paper::Drawing sectionSheet(const Section&, const Sequence&, const std::string& name, double exaggeration);

/// From the lowest to the highest level that a section shows: ground, bases and holes' ends. None without any.
std::optional<std::pair<double, double>> levelsOf(const Section&);

} // namespace fox
