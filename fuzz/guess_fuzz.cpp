// Any bytes as a survey whose columns have to be guessed: in a project with data, with a system, with neither.
#include "base/errors.h"
#include "ground/survey_guess.h"

#include <algorithm>
#include <cstdint>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const fox::ExpectedPlaces kExpected[] = {{{480000, 6120000, 481500, 6121000}, ""}, {{}, "EPSG:25831"}, {{}, ""}};
    if (size < 2) return 0;
    try {
        const auto table = fox::readTable({reinterpret_cast<const char*>(data) + 1, size - 1}, "fuzz");
        const auto guess = fox::guessSurvey(table.rows, table.decimalComma, kExpected[data[0] % std::size(kExpected)]);
        if (!guess) return 0;
        for (const char* name : {"easting", "northing", "level"}) // a guess names each of them, once
            if (std::ranges::count(guess->columns, std::string(name)) != 1) std::abort();
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
