#pragma once
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

/// A value in a STEP file (ISO 10303-21), as it is written there.
struct StepValue {
    std::string text;

    static StepValue none() { return {"$"}; }
    static StepValue derived() { return {"*"}; }
    static StepValue reference(std::size_t instance);
    static StepValue enumeration(std::string_view word); ///< ".SOLID."
    static StepValue string(std::string_view utf8);      ///< with what is not ASCII as the standard has it; quoted
    static StepValue real(double);                       ///< the shortest that gives the same number again
    static StepValue integer(std::int64_t);
    static StepValue boolean(bool);
    static StepValue typed(std::string_view type, const StepValue&); ///< "IFCLABEL('clay')"
    static StepValue list(const std::vector<StepValue>&);
    static StepValue references(const std::vector<std::size_t>&);
};

/// Instances in the order in which they were added, numbered from 1.
class StepFile {
public:
    std::size_t add(std::string_view type, const std::vector<StepValue>& attributes);
    struct Header {
        std::string description, name, time, program, schema; ///< time as "2026-11-30T09:00:00"
    };
    std::string text(const Header&) const;

private:
    std::string m_data;
    std::size_t m_count = 0;
};

} // namespace fox
