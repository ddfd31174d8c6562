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

void check(const Options& options) {
    const auto checked = checkFile(options.file);
    json findings = json::array();
    for (const auto& f : checked.findings)
        findings.push_back({{"severity", word(f.severity)},
                            {"rule", f.rule},
                            {"line", f.line > 0 ? json(f.line) : json(nullptr)},
                            {"group", f.group},
                            {"heading", f.heading},
                            {"hole", f.hole},
                            {"message", f.message}});
    const int errors = count(checked.findings, Severity::Error);
    print({{"format", checked.format},
           {"version", checked.version.empty() ? json(nullptr) : json(checked.version)},
           {"counts",
            {{"error", errors},
             {"warning", count(checked.findings, Severity::Warning)},
             {"note", count(checked.findings, Severity::Note)}}},
           {"findings", findings}},
          options.json);
    if (errors > 0) {
        const auto first = std::ranges::find(checked.findings, Severity::Error, &Finding::severity);
        throw Error(errors == 1 ? describe(*first) : fmt::format("{} (and {} more errors)", describe(*first), errors - 1));
    }
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
