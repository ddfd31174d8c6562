// Any bytes as separated text, and as a table of holes.
#include "base/errors.h"
#include "holes/hole_checks.h"
#include "holes/table_holes.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    try {
        const auto table = fox::readTable({reinterpret_cast<const char*>(data), size}, "fuzz.csv");
        int line = 0;
        for (const auto& row : table.rows) {
            if (row.line <= line) std::abort(); // lines go forward
            line = row.line;
        }
        fox::checkHoles(fox::holesOf(table, fox::guessMapping(table), "P").holes);
    } catch (const fox::FileError&) {
    }
    return 0;
}
