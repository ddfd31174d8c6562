// Any bytes as an AGS file: read, checked, understood, changed and converted.
#include "base/errors.h"
#include "formats/ags_changes.h"
#include "formats/ags_check.h"
#include "formats/ags_convert.h"
#include "holes/ags_holes.h"
#include "holes/hole_checks.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string bytes(reinterpret_cast<const char*>(data), size);
    try {
        auto file = fox::readAgs(bytes, "fuzz.ags");
        fox::checkAgs(file);
        fox::checkHoles(fox::holesOf(file).holes);
        if (fox::withChanges(bytes, "fuzz.ags", {}) != bytes) std::abort();
        for (const auto& g : file.groups)
            if (!g.rows.empty() && !g.headings.empty()) {
                const std::vector<fox::CellChange> one{{g.rows.back().line, g.headings.front(), "a \"b\""}};
                fox::readAgs(fox::withChanges(bytes, "fuzz.ags", one), "changed.ags");
                fox::change(file, one);
                break;
            }
        if (file.edition == fox::AgsEdition::Ags3) fox::readAgs(fox::toAgs41(file).text, "converted.ags"); // must be readable
    } catch (const fox::FileError&) { // no AGS file: a sentence
    }
    return 0;
}
