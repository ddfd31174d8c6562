#pragma once
#include "formats/picture.h"
#include "products/making.h"

namespace fox {

/// The imported AGS files as tables, with the corrections made to them, as project.files; null for other formats.
std::vector<std::shared_ptr<const AgsFile>> importedTables(const Making&);
/// As project.pictures; null if its bytes can't be read.
std::vector<std::shared_ptr<const Picture>> pictures(const Making&);

} // namespace fox
