#pragma once
#include "paper/drawing.h"
#include "paper/sheet_template.h"
#include "products/products.h"

namespace fox {

/// A template filled with an item.
struct FilledSheet {
    std::string item; ///< as it is called; empty: none
    std::vector<paper::Drawing> pages;
    double scale = 0;         ///< 1:n of depths, distances or the map; 0: it has none
    double verticalScale = 0; ///< of a section's levels; 0: likewise
    /// Of a plan or map: easting and northing of the page's top left corner; `scale` says how large it is there.
    std::optional<Point2> corner;
    std::size_t overfull = 0; ///< texts that found no room
    std::vector<std::string> withoutPattern;
    std::vector<std::string> missing;     ///< what an element was to show and is not there: "the chart \"water\""
    std::vector<std::string> withoutUnit; ///< headings of values that are printed and have no unit of measure
};

/// What products filling asks for.
Wanted wantedForSheet(const SheetTemplate&, const std::string& item);
/// `item`: a hole or section by name, or a unit's code; for a plan, map, summary, key or title nothing. `number` and `numbers`:
/// of the first page and of all pages, where the sheet stands in a longer document; 0: by itself. `listed`: lines of a list of
/// sheets.
/// @throws Error if the project has no such item, or one is missing or not wanted
FilledSheet fillSheet(const SheetTemplate&, const std::string& item, const ProductSet&, const std::string& date,
                      const std::vector<std::pair<std::string, std::size_t>>& listed = {}, std::size_t number = 0,
                      std::size_t numbers = 0);
/// What of them needs a word before they go out, as sentences: texts without room, codes without a pattern, what is missing. A
/// sheet of no item is called `name`.
std::vector<std::string> notesOn(std::span<const FilledSheet>, const std::string& name);
/// The layout of a report's sheet for one of its items: that of a hole by its name, else by its kind, else the sheet's.
const SheetTemplate& layoutFor(const ReportEntry&, const std::string& item, const Project&);
/// Every item that a template can be filled with: all holes, sections or units with a base; one empty name where it takes none.
std::vector<std::string> itemsFor(const SheetTemplate&, const Project&);

} // namespace fox
