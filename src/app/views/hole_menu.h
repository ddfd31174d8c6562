#pragma once
#include "views/view.h"

class QMenu;

namespace fox::app {

/// What a menu of shown holes can do beyond the selection.
struct HoleMenuActions {
    std::function<void(const Edit&)> edit;
    std::function<void()> drawArea; ///< on a plan; empty: it is not offered
};

/// Which holes are shown: all, by kind, unit or test, near the section, in an area, ticked one by one, or a set of the project's.
void fillHoleMenu(QMenu&, Selection&, const ProductSet&, QWidget* parent, const HoleMenuActions&);

/// "18 of 42 holes"; empty if all are shown.
QString shownInWords(const Selection&, const ProductSet*);

} // namespace fox::app
