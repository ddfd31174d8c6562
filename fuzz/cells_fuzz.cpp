// Any bytes as an unstructured grid of cells.
#include "base/errors.h"
#include "formats/vtu.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    try {
        const fox::VtuFile file(std::string(reinterpret_cast<const char*>(data), size), "fuzz.vtu");
        if (file.cells() != file.middles().size()) std::abort();
        const std::vector<std::int32_t> units(file.cells(), 1);
        const fox::VtuFile again(file.with({{"unit", units}}), "again.vtu"); // can be read, and has the same cells
        if (again.cells() != file.cells()) std::abort();
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
