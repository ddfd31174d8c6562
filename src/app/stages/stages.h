#pragma once
#include "stages/shelf.h"

namespace fox::app {

/// What a stage tells about itself on the stage column.
struct StageFigure {
    QString words;
    Severity state = Severity::Note;
    int count = 0; ///< findings of that severity
};

/// One stage of the work, in the order in which it goes.
struct Stage {
    const char* id;    ///< "holes", as the command line has it
    const char* title; ///< "Holes"
    const char* band;  ///< which earth the column draws for it
    Shelf* (*makeShelf)(Selection*, QWidget* parent);
    StageFigure (*figure)(const ProductSet&);
    const char* partOf = nullptr; ///< id of the stage whose place on the column it shares; null: its own. Parts come last
};
const std::vector<Stage>& stages();

} // namespace fox::app
