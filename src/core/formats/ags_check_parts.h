#pragma once
// What the parts of the check of an AGS file have in common.
#include "formats/ags_check.h"
#include "formats/ags_dictionary.h"

#include <functional>
#include <map>

namespace fox {

/// The number of a rule in each edition; empty where it has none. One that is not a number ("FC-FORM") is taken as it is.
struct AgsRule {
    const char* four;
    const char* three;
    Severity severity = Severity::Error;
};

/// Findings of one rule in one column are listed one by one up to kListedEach, then counted.
class AgsFindings {
public:
    explicit AgsFindings(const AgsFile& file) : m_file(file) {}
    void add(const AgsRule&, int line, std::string group, std::string heading, std::string hole, std::string words);
    Findings take();

private:
    struct Tally {
        int times = 0;
        Finding last;
    };
    const AgsFile& m_file;
    Findings m_out;
    std::map<std::string, Tally> m_tallies;
};

/// The hole of a row; empty if its group names none.
std::string holeAt(const AgsGroup&, std::size_t row);
/// A cell for a sentence: not longer than a line.
std::string shown(std::string_view cell);
bool isAgsNumberType(std::string_view type);
/// Whether a column is typed as text where the dictionary has numbers, dates or abbreviations, so that nothing would be asked of
/// its values.
bool hidesType(std::string_view type, std::string_view known);

/// Rules 11, 15 to 18 and 20: what a file uses must stand in the groups that list it.
void checkAgsLookUps(const AgsFile&, const AgsDictionary&, const std::optional<std::filesystem::path>& folder, const Progress&,
                     AgsFindings&);

/// A check of rows, which can run beside others.
using AgsRowCheck = std::function<void(AgsFindings&)>;
/// Rules 8 and 10 (in edition 3: 18 and 19), group by group and column by column. File and dictionary must outlive them.
std::vector<AgsRowCheck> agsRowChecks(const AgsFile&, const AgsDictionary&);

} // namespace fox
