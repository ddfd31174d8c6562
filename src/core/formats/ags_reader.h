#pragma once
#include "formats/ags.h"

namespace fox {

/// A file's text as it is read, and what is needed to make the same bytes of it again.
struct AgsText {
    std::string text; ///< UTF-8; lines end in LF or CR LF
    TextEncoding encoding = TextEncoding::Ascii;
    bool hasMark = false;
    bool carriageReturnOnly = false; ///< the file's lines end in CR alone
};
AgsText agsText(std::string bytes);
std::string agsBytes(AgsText);

/// Reads the rows of `text` into the groups and findings of `file`, whose edition is known. Cells point into `text`, in which
/// doubled quotes are made single on the way, so that it is that of a file no longer.
void readAgsRows(AgsFile& file, std::string& text, const Progress&);

/// The first word of a line, without quotes.
std::string_view firstAgsWord(std::string_view line);

} // namespace fox
