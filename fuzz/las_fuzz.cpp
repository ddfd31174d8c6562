// Any bytes as a LAS file.
#include "base/errors.h"
#include "formats/las.h"
#include "holes/las_holes.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    try {
        const auto file = fox::readLas({reinterpret_cast<const char*>(data), size}, "fuzz.las");
        for (const auto& column : file.values)
            if (column.size() != file.steps()) std::abort(); // every curve has a value a step
        fox::holeOf(file);
    } catch (const fox::FileError&) {
    }
    return 0;
}
