// check and rewrite.
#include "base/errors.h"
#include "base/files.h"
#include "formats/ags_convert.h"
#include "holes/file_check.h"
#include "output.h"
#include "project/json.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

void printCheck(const FileCheck& checked, bool asJson) {
    json findings = json::array();
    for (const auto& f : checked.findings)
        findings.push_back({{"severity", word(f.severity)},
                            {"rule", f.rule},
                            {"line", f.line > 0 ? json(f.line) : json(nullptr)},
                            {"group", f.group},
                            {"heading", f.heading},
                            {"hole", f.hole},
                            {"message", f.message}});
    const auto orNull = [](const std::string& text) { return text.empty() ? json(nullptr) : json(text); };
    print({{"format", orNull(checked.format)},
           {"version", orNull(checked.version)},
           {"counts",
            {{"error", count(checked.findings, Severity::Error)},
             {"warning", count(checked.findings, Severity::Warning)},
             {"note", count(checked.findings, Severity::Note)}}},
           {"findings", findings}},
          asJson);
}

/// A file that is empty or of no known format is a result too, for whoever reads the document.
FileCheck checkOf(const Options& options) {
    try {
        return checkFile(options.file);
    } catch (const FileError& e) {
        if (std::error_code ignored; !options.json || !std::filesystem::is_regular_file(options.file, ignored)) throw;
        return {"", "", {{Severity::Error, "FC-FORMAT", options.file.filename().string(), 0, "", "", "", e.what()}}};
    }
}

} // namespace

void check(const Options& options) {
    const auto checked = checkOf(options);
    printCheck(checked, options.json);
    const auto isBad = [&](const Finding& f) {
        return f.severity == Severity::Error || (options.strict && f.severity == Severity::Warning);
    };
    const auto bad = std::ranges::count_if(checked.findings, isBad);
    if (bad == 0) return;
    const auto first = std::ranges::find_if(checked.findings, isBad);
    const auto words = first->rule == "FC-FORMAT" ? first->message : describe(*first);
    throw Error(bad == 1 ? words : fmt::format("{} (and {} more {})", words, bad - 1, options.strict ? "findings" : "errors"));
}

void rewrite(const Options& options) {
    if (!options.to.empty() && options.to != "4.1")
        throw UsageError(fmt::format("--to {}: only 4.1 can be written.", options.to));
    auto bytes = readBytes(options.file);
    const auto name = options.file.filename().string();
    const auto file = readAgs(bytes, name); // refuses what is not an AGS file
    if (!options.to.empty() && file.edition == AgsEdition::Ags3) {
        auto converted = toAgs41(file);
        for (const auto& f : file.findings) std::cerr << describe(f) << '\n';
        for (const auto& note : converted.notes) std::cerr << note << '\n';
        bytes = std::move(converted.text);
    } else if (!options.to.empty() && file.version != "4.1") {
        std::cerr << fmt::format("{} says that it is AGS {}; edition 4 is kept as it is.\n", name, file.version);
    }
    writeBytes(options.out, bytes);
    if (options.json) print({{"file", options.out.string()}, {"bytes", bytes.size()}}, true);
}

} // namespace fox::run
