#pragma once
#include "project/edits.h"

namespace fox {

// Edits of the report: the sheets that go out on paper, in their order.

/// At the end, or behind the sheet of a name, under a name that no other has.
Edited addSheet(const Project&, ReportEntry, const std::string& behind = {});
Edited removeSheet(const Project&, const std::string& name);
/// @throws Error without a name, or for one that is taken
Edited renameSheet(const Project&, const std::string& name, const std::string& wanted);
/// To a place in the list, counted without itself; one beyond the end is the end.
Edited moveSheet(const Project&, const std::string& name, std::size_t to);
/// `words` say what is changed. @throws Error if there is none, what `change` throws
Edited changeSheet(const Project&, const std::string& name, const std::function<void(ReportEntry&)>& change,
                   const std::string& words);
/// The usual ones of what the project has: title, key, plan, map, sections, logs, contours of bases, unit summary. Behind those
/// that are there.
Edited addUsualSheets(const Project&);

} // namespace fox
