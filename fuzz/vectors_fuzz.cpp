// Any bytes as a vector file: the first byte chooses the kind, the rest is the file. Drawings have a target of their own.
#include "base/errors.h"
#include "formats/vector.h"
#include "scratch_file.h"

#include <cstdint>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const ScratchFile files[] = {ScratchFile("geojson"), ScratchFile("shp")};
    if (size < 2) return 0;
    const auto& file = files[data[0] % std::size(files)];
    file.write({reinterpret_cast<const char*>(data) + 1, size - 1});
    try {
        fox::readVector(file.path());
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
