#include "base/errors.h"
#include "base/files.h"
#include "handover/model_report.h"
#include "handover/project_comparison.h"
#include "output.h"
#include "paper/render.h"
#include "store/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

std::shared_ptr<const ProductSet> read(const std::filesystem::path& file, const Wanted& wanted) {
    Findings findings;
    const auto project = ProjectStore::read(file, findings);
    for (const auto& f : findings) std::cerr << describe(f) << '\n';
    return Products().of(project, {}, wanted);
}

void needPdf(const std::filesystem::path& out) {
    if (out.extension() != ".pdf") throw UsageError(fmt::format("--out {}: a report is written as .pdf.", out.string()));
}

} // namespace

void report(const Options& w) {
    if (!w.out.empty()) needPdf(w.out);
    if (w.out.empty() && !w.json) throw UsageError("Give --out R.pdf, --json, or both.");
    ReportOptions options;
    options.chapters = {w.chapters.begin(), w.chapters.end()};
    options.date = today();
    if (w.realisations > 0) options.realisations = w.realisations;
    const auto set = read(w.file, wantedForReport());
    const auto document = modelReport(*set, options);
    if (!w.out.empty()) writeBytes(w.out, reportPdf(document, *set, options.date));
    if (w.json) return print(documentJson(document), true);
    std::cout << w.out.string() << '\n';
}

void compare(const Options& w) {
    if (!w.out.empty()) needPdf(w.out);
    const auto before = read(w.file, {ProductKind::Grids}), after = read(w.other, {ProductKind::Grids});
    const auto comparison = compareProjects(*before, *after);
    const auto& sequence = *after->project.sequence;
    if (!w.out.empty()) {
        const auto document =
            comparisonReport(comparison, sequence, w.file.filename().string(), w.other.filename().string(), today());
        writeBytes(w.out, paper::toPdf(layOut(document).pages, {document.title, document.subject, {}}));
    }
    print(comparisonJson(comparison, sequence), w.json);
}

} // namespace fox::run
