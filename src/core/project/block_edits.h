#pragma once
#include "project/edits.h"

namespace fox {

// Edits of block models and of excavations. All throw Error if what they speak of is not there.

/// Under a name that no other block model has: "Blocks 2" if it is taken.
Edited addBlockModel(const Project&, BlockSpec);
Edited removeBlockModel(const Project&, const std::string& name);
/// Excavations that want its blocks follow. @throws Error without a name, or for one that is taken
Edited renameBlockModel(const Project&, const std::string& name, const std::string& wanted);
/// `words` say what: "size of blocks". @throws what `change` throws
Edited changeBlockModel(const Project&, const std::string& name, const std::function<void(BlockSpec&)>& change,
                        const std::string& words);

/// The same for excavations.
Edited addExcavation(const Project&, ExcavationSpec);
Edited removeExcavation(const Project&, const std::string& name);
Edited renameExcavation(const Project&, const std::string& name, const std::string& wanted);
Edited changeExcavation(const Project&, const std::string& name, const std::function<void(ExcavationSpec&)>& change,
                        const std::string& words);

} // namespace fox
