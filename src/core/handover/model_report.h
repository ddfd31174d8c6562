#pragma once
#include "products/products.h"
#include "project/edits.h"
#include "sheets/document.h"

#include <nlohmann/json.hpp>

namespace fox {

struct ReportOptions {
    std::set<std::string> chapters; ///< by key, see reportChapters(); empty: those that the project does not exclude
    int realisations = 100;         ///< equally likely models for ranges
    std::string date;               ///< as it is printed: "2026-11-30"
};

/// Keys and titles of the chapters, in their order: "data", "ground", "interpretation", "surfaces", "agreement", "uncertainty",
/// "volumes", "findings", "unknown".
const std::vector<std::pair<std::string, std::string>>& reportChapters();

/// Whether the report has a chapter; with words of one's own (the project's ReportChoices) at its head.
/// @throws Error for no such chapter
Edited setChapterUsed(const Project&, const std::string& chapter, bool used);
Edited setChapterText(const Project&, const std::string& chapter, const std::string& words);

/// What products the report is made from.
Wanted wantedForReport();

/// The model's report: what it was made from, how, how well it agrees with the holes, what is uncertain, and what is not known.
/// Every sentence and number is from the project; nothing is judged. @throws UsageError for a chapter that does not exist,
/// Stopped
Document modelReport(const ProductSet&, const ReportOptions&, const Progress& = {});

/// The document as data: {"title", "date", "chapters": [{"key", "title", "paragraphs": [..], "tables": [{"title", "columns":
/// [{"name", "unit"}], "rows": [[..]]}]}]}; a cell that is blank is null.
nlohmann::json documentJson(const Document&);

/// The report as a PDF with bookmarks, its chapters before a key to the units, a plan and the sections.
std::string reportPdf(const Document&, const ProductSet&, const std::string& date);

} // namespace fox
