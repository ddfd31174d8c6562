#pragma once
#include "dialogs/place_map.h"
#include "importing/import.h"

namespace fox::app {

/// What the small map shows of a file: holes and points as dots, lines as lines, grids shaded, pictures as they are; of
/// millions of places enough to see. It may take a while: made beside the window.
PlacePreview placePreview(const ImportPreview&);

} // namespace fox::app
