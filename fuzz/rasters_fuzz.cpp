// Any bytes as a grid: the first byte chooses the kind, the rest is the file.
#include "base/errors.h"
#include "formats/raster.h"
#include "scratch_file.h"

#include <cstdint>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const ScratchFile files[] = {ScratchFile("asc"), ScratchFile("tif"), ScratchFile("xyz")};
    if (size < 2) return 0;
    const auto& file = files[data[0] % std::size(files)];
    file.write({reinterpret_cast<const char*>(data) + 1, size - 1});
    try {
        fox::Findings findings;
        const auto raster = fox::readRasterIn(file.path(), "EPSG:25831", std::nullopt, findings);
        if (raster.grid.values.size() != raster.grid.frame.cells()) std::abort();
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
