// Any bytes as a drawing.
#include "base/errors.h"
#include "formats/vector.h"
#include "scratch_file.h"

#include <cstdint>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const ScratchFile file("dxf");
    file.write({reinterpret_cast<const char*>(data), size});
    try {
        fox::readVector(file.path());
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
