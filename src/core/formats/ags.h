#pragma once
#include "base/encoding.h"
#include "base/finding.h"
#include "base/progress.h"

#include <cstdint>
#include <deque>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

enum class AgsEdition { Ags3, Ags4 };

/// One group (a table). Cells are as written, without quotes; short rows are filled with empty cells.
struct AgsGroup {
    struct Row {
        int line;              ///< of the file, counted from 1; the first, if <CONT> lines follow
        int lines;             ///< how many lines it takes up, <CONT> and broken ones counted
        std::size_t firstCell; ///< in `cells`
        int piece = 0;         ///< of the group, where it comes in several: which of `laterPieces`, counted from 1
    };
    /// A later piece of a group that comes several times, with units and types of its own; in the order of `headings`.
    struct Piece {
        int line = 0, unitLine = 0, typeLine = 0;
        std::vector<std::string> units, types;
    };
    std::string name;                                ///< without asterisks
    int line = 0;                                    ///< where it begins
    int headingLine = 0, unitLine = 0, typeLine = 0; ///< 0: there is no such row
    std::vector<std::string> headings;               ///< without asterisks
    std::vector<std::string> units, types;
    std::vector<Piece> laterPieces;
    std::vector<Row> rows;
    std::vector<std::string_view> cells; ///< row by row, headings.size() each

    /// Of a row's column, by the piece that the row stands in; empty if it has none.
    std::string_view unit(std::size_t row, std::size_t column) const;
    std::string_view cell(std::size_t row, std::size_t column) const { return cells[rows[row].firstCell + column]; }
    std::optional<std::size_t> column(std::string_view heading) const; ///< in any case
    void addHeading(const std::string& heading);                       ///< behind the others, empty in every row
};

/// A file in the AGS format, editions 3 and 4. Faults become findings; reading goes on.
struct AgsFile {
    std::string name; ///< what findings call the file
    AgsEdition edition = AgsEdition::Ags4;
    TextEncoding encoding = TextEncoding::Ascii; ///< of its bytes; cells are UTF-8
    bool hasMark = false;                        ///< its bytes begin with a byte-order mark
    std::string version;                         ///< "4.1", "3.1": as the file says, else "4" or "3"
    std::vector<AgsGroup> groups;                ///< in file order; a group that comes in two pieces is one
    Findings findings;                           ///< of form; in file order

    std::shared_ptr<const std::string> text; ///< what cells point into
    std::deque<std::string> mended;          ///< cells that had to be joined or unquoted

    AgsFile() = default;
    AgsFile(AgsFile&&) = default; // a copy's cells would point into the original
    AgsFile& operator=(AgsFile&&) = default;

    const AgsGroup* group(std::string_view name) const;
};

/// Whether the bytes look like an AGS file: one of the first lines begins a group.
bool looksLikeAgs(std::string_view bytes);

/// Reads through semicolons, tabs, missing quotes, quotes inside quotes, line breaks in fields, other encodings than ASCII and
/// line ends of LF or CR alone, and says each once with a count. `name` is what findings call the file.
/// @throws FileError if the bytes are empty or not AGS
AgsFile readAgs(std::string bytes, std::string name, const Progress& progress = {});
/// @throws FileError also if the file cannot be opened
AgsFile readAgs(const std::filesystem::path& file, const Progress& progress = {});

} // namespace fox
