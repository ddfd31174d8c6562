#pragma once
#include "views/table_content.h"

namespace fox::app {

/// The project's excavations side by side: a row a case, what each comes to.
TableContentPtr excavationsTable(std::shared_ptr<const ProductSet>);

} // namespace fox::app
