#pragma once
#include "base/point.h"
#include "formats/table.h"

#include <string>
#include <vector>

namespace fox {

/// What a table of survey points holds that has no header, or one that says nothing, as its values tell.
struct SurveyGuess {
    /// As readTable takes them: "point", "easting", "northing", "level", "code"; "" for what is not used.
    std::vector<std::string> columns;
    /// Which of the two coordinates is the easting: by the project's data or system, or by nothing but the usual order. The
    /// latter has to be asked.
    enum class Order { Known, Asked } order = Order::Asked;
    std::string why; ///< "column 2 lies within the site's northings, column 3 within its eastings", for people
    bool operator==(const SurveyGuess&) const = default;
};

/// Where points are to be expected: around the project's data, and where its system is meant for.
struct ExpectedPlaces {
    Box2 near;       ///< empty: there are no data yet
    std::string crs; ///< empty: not set
};

/// Guesses from the values: two columns of coordinates, one that varies slowly as a level does, words as codes, counted numbers
/// as points' numbers. Looks at up to 400 rows, spread over all. None if there are no two columns of coordinates and one of
/// levels. Our own construction.
std::optional<SurveyGuess> guessSurvey(const std::vector<Table::Row>& rows, bool decimalComma, const ExpectedPlaces&);

/// Orders of columns that are usual in the field, for tables of so many columns: names as above.
std::vector<std::vector<std::string>> usualSurveyOrders(std::size_t columns);

} // namespace fox
