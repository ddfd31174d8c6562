#pragma once
#include "products/products.h"

#include <QString>
#include <functional>
#include <optional>

class QWidget;

namespace fox::app {

/// For what a source is chosen.
struct SourceAsked {
    std::string value = {}; ///< CellValueKind::key; empty: a level
    bool canBeNone = true;
    /// The line along which values can be given, by name: a river with its heads.
    std::optional<std::pair<QString, Polyline2>> line = {};
};

/// Offers all that levels and values of cells can come from, at the cursor: units, numbers, surfaces of the project, grids and
/// columns of tables in files. `take` gets what was chosen; none: nothing any more. `failed` gets a sentence.
void chooseSource(QWidget* parent, const ProductSet&, const SourceAsked&,
                  const std::function<void(std::optional<FieldSource>)>& take, const std::function<void(const QString&)>& failed);

/// A source in a few words: "k.csv: k".
QString sourceInWords(const FieldSource&);

} // namespace fox::app
