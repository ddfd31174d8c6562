#include "base/length_unit.h"

#include "base/text.h"

#include <algorithm>
#include <array>
#include <string>
#include <utility>

namespace fox {

namespace {

constexpr LengthUnit kLengthUnits[] = {{"m", "metres", 1},
                                       {"ft", "feet", 0.3048},
                                       {"us-ft", "US survey feet", 1200.0 / 3937},
                                       {"mm", "millimetres", 0.001},
                                       {"cm", "centimetres", 0.01}};

/// Spellings, lower case without dots, with the key that they mean.
constexpr std::pair<std::string_view, std::string_view> kSpellings[] = {{"metre", "m"},
                                                                        {"metres", "m"},
                                                                        {"meter", "m"},
                                                                        {"meters", "m"},
                                                                        {"mtr", "m"},
                                                                        {"foot", "ft"},
                                                                        {"feet", "ft"},
                                                                        {"us ft", "us-ft"},
                                                                        {"usft", "us-ft"},
                                                                        {"us feet", "us-ft"},
                                                                        {"ftus", "us-ft"},
                                                                        {"us survey ft", "us-ft"},
                                                                        {"us survey feet", "us-ft"},
                                                                        {"us survey foot", "us-ft"},
                                                                        {"sft", "us-ft"},
                                                                        {"survey ft", "us-ft"},
                                                                        {"survey feet", "us-ft"},
                                                                        {"millimetres", "mm"},
                                                                        {"millimeters", "mm"}};

/// What depths and levels are measured from; it says nothing of the unit.
constexpr std::string_view kDatums[] = {" bgl", " bgs", " aod", " od", " amsl", " asl", " msl", " nn", " nhn", " below ground"};

std::string plain(std::string_view text) {
    auto out = lower(trimmed(text));
    std::erase(out, '.');
    for (const auto datum : kDatums)
        if (out.ends_with(datum)) out.resize(out.size() - datum.size());
    return out;
}

} // namespace

std::span<const LengthUnit> lengthUnits() { return kLengthUnits; }

const LengthUnit* lengthUnitNamed(std::string_view text) {
    const auto word = plain(text);
    std::string_view key = word;
    for (const auto& [spelling, means] : kSpellings)
        if (word == spelling) key = means;
    const auto at = std::ranges::find(kLengthUnits, key, [](const LengthUnit& u) { return std::string_view(u.key); });
    return at == std::end(kLengthUnits) ? nullptr : &*at;
}

bool isDegrees(std::string_view text) {
    static constexpr std::string_view kWords[] = {"deg", "degs", "degree", "degrees", "\u00b0", "dms", "decimal degrees"};
    return std::ranges::count(kWords, std::string_view(plain(text))) > 0;
}

HeadingWithUnit headingWithUnit(std::string_view heading) {
    heading = trimmed(heading);
    if (const auto open = heading.find_first_of("(["); open != heading.npos) {
        const auto close = heading.find_first_of(")]", open);
        const auto unit = trimmed(heading.substr(open + 1, close == heading.npos ? heading.npos : close - open - 1));
        return {trimmed(heading.substr(0, open)), unit};
    }
    const auto blank = heading.find_last_of(" _");
    if (blank == heading.npos || blank == 0) return {heading, {}};
    const auto word = heading.substr(blank + 1);
    const bool isUnit = lengthUnitNamed(word) || isDegrees(word);
    return isUnit ? HeadingWithUnit{trimmed(heading.substr(0, blank)), word} : HeadingWithUnit{heading, {}};
}

} // namespace fox
