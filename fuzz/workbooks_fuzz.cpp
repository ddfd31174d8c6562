// Any bytes as a workbook. The corpus holds one that is not compressed, so that a changed byte reaches the cells.
#include "base/errors.h"
#include "formats/workbook.h"

#include <cstdint>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    for (const char* name : {"fuzz.xlsx", "fuzz.ods"}) {
        try {
            fox::readWorkbook(std::string(reinterpret_cast<const char*>(data), size), name);
        } catch (const fox::FileError&) { // refused with a sentence
        }
    }
    return 0;
}
