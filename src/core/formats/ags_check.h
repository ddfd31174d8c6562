#pragma once
#include "formats/ags.h"

namespace fox {

/// Every breach of the standard's rules: those of form, found on reading (file.findings), and those of content,
/// against the dictionary. In the order of the file's lines. A breach is an error, but for the look-up rules
/// (AGS 4: 7, 11, 15 to 18, 20), which are warnings: nothing is lost by them. Findings of one rule in one
/// column are listed one by one up to kListedEach, then counted.
/// `folder`, if it is given, is where the file came from: associated files (rule 20) are looked for in it.
Findings checkAgs(const AgsFile&, const std::optional<std::filesystem::path>& folder = {}, const Progress& = {});

inline constexpr int kListedEach = 50;

/// Whether values are what a type says, by rule 8: "2DP", "DT" with a unit such as "yyyy-mm-dd", "YN" and so on. An empty value
/// and an unknown type are in order.
class AgsTypeTest {
public:
    AgsTypeTest(std::string_view type, std::string_view unit);
    bool fits(std::string_view value) const;
    bool takesAll() const { return m_kind == Kind::Any; } ///< whatever the value

private:
    enum class Kind { Any, Decimals, Significant, Scientific, Number, YesNo, Degrees, Pattern, Elapsed };
    Kind m_kind = Kind::Any;
    int m_figures = 0;
    std::string m_pattern;
};
bool fitsType(std::string_view value, std::string_view type, std::string_view unit);
/// Whether the standard knows the type.
bool isAgsType(std::string_view type);

} // namespace fox
