#pragma once
#include "views/table_content.h"

namespace fox::app {

// Tables of points that are in no hole, a row each, where any of them is excluded by typing "no".

/// Contacts that are in no log, as their files have them.
TableContentPtr contactsTable(std::shared_ptr<const ProductSet>);
/// Values at points in space.
TableContentPtr valuesTable(std::shared_ptr<const ProductSet>);

} // namespace fox::app
