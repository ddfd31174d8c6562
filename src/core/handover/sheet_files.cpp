#include "handover/sheet_files.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/picture.h"
#include "formats/vector.h"
#include "handover/file_word.h"
#include "handover/sheet_targets.h"
#include "paper/render.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace fox {

SheetTarget sheetTargetOf(const std::filesystem::path& out, const std::string& as) {
    const auto known = [](const std::string& kind) {
        return std::ranges::find(kSheetFileKinds, kind) != std::end(kSheetFileKinds);
    };
    if (!as.empty() && !known(as))
        throw Error(fmt::format("A sheet can't be written as {}; it can as {}.", as, fmt::join(kSheetFileKinds, ", ")));
    const auto ending = out.extension().string();
    if (ending.empty() || std::filesystem::is_directory(out)) return {as.empty() ? "pdf" : as, true};
    const auto kind = ending.substr(1);
    if (!known(kind))
        throw Error(fmt::format("A sheet can't be written as \"{}\"; give a folder, or a name that ends with .{}.", ending,
                                fmt::join(kSheetFileKinds, ", .")));
    if (!as.empty() && as != kind) throw Error(fmt::format("{} can't be written as {}.", out.filename().string(), as));
    return {kind, false};
}

namespace {

constexpr double kPerInch = 25.4; ///< millimetres

/// What a pixel is, as GDAL has it: easting of the corner, eastward, 0, northing, 0, northward.
std::optional<std::array<double, 6>> georeferenceOf(const FilledSheet& sheet, double dotsPerInch) {
    if (!sheet.corner || !(sheet.scale > 0)) return {};
    const double pixel = kPerInch / dotsPerInch * sheet.scale / 1000; // metres
    return std::array<double, 6>{sheet.corner->x, pixel, 0, sheet.corner->y, 0, -pixel};
}

Picture pictureOf(const paper::Drawing& page, const FilledSheet& sheet, double dotsPerInch, const std::string& crs) {
    const auto bitmap = paper::toBitmap(page, dotsPerInch / kPerInch);
    Picture out{bitmap.width, bitmap.height, {}, georeferenceOf(sheet, dotsPerInch), crs};
    out.rgba.reserve(bitmap.pixels.size() * 4);
    for (const auto p : bitmap.pixels) { // on white paper; premultiplied
        const auto clear = 255 - (p >> 24U);
        for (const unsigned shift : {16U, 8U, 0U}) out.rgba.push_back(std::uint8_t(((p >> shift) & 255U) + clear));
        out.rgba.push_back(255);
    }
    if (!out.georeference) out.crs.clear();
    return out;
}

} // namespace

void addSheetPage(ReplaceFiles& outputs, const std::filesystem::path& to, const FilledSheet& sheet, std::size_t at,
                  const std::string& as, double dotsPerInch, const std::string& crs) {
    const auto& page = sheet.pages.at(at);
    outputs.add(to, [&](const auto& scratch) {
        if (as == "dxf")
            writeVector(scratch, paper::toLayers(page));
        else if (as == "tif")
            writePicture(scratch, pictureOf(page, sheet, dotsPerInch, crs));
        else
            writeBytes(scratch, as == "svg" ? paper::toSvg(page) : paper::toPng(page, dotsPerInch));
    });
    const auto georeference = as == "png" ? georeferenceOf(sheet, dotsPerInch) : std::nullopt;
    if (!georeference) return;
    const auto& g = *georeference; // a world file has the middle of the first pixel
    auto world = to;
    outputs.add(world.replace_extension(".pgw"), [&](const auto& scratch) {
        writeBytes(scratch, fmt::format("{:.10f}\n{:.10f}\n{:.10f}\n{:.10f}\n{:.6f}\n{:.6f}\n", g[1], g[4], g[2], g[5],
                                        g[0] + g[1] / 2, g[3] + g[5] / 2));
    });
}

namespace {

std::string titleOf(const SheetTemplate& t, const FilledSheet& sheet) { return sheet.item.empty() ? t.name : sheet.item; }

void addPdf(ReplaceFiles& outputs, const std::filesystem::path& to, const SheetTemplate& t, std::span<const FilledSheet> sheets,
            const std::string& project) {
    std::vector<paper::Drawing> pages;
    paper::PdfWords words{sheets.size() == 1 ? titleOf(t, sheets.front()) : t.name, project, {}};
    for (const auto& s : sheets) {
        words.bookmarks.push_back({titleOf(t, s), pages.size()});
        pages.insert(pages.end(), s.pages.begin(), s.pages.end());
    }
    outputs.add(to, [&](const auto& scratch) { writeBytes(scratch, paper::toPdf(pages, words)); });
}

} // namespace

Wanted wantedForSheets(const SheetTemplate& t, const std::vector<std::string>& items) {
    Wanted out;
    for (const auto& item : items) {
        auto one = wantedForSheet(t, item);
        out.kinds.merge(one.kinds);
        out.sections.merge(one.sections);
    }
    return out;
}

SheetTemplate sheetTemplate(const std::string& nameOrFile) {
    for (const auto& t : shippedTemplates())
        if (equalNoCase(t.name, nameOrFile)) return t;
    const std::filesystem::path file = nameOrFile;
    if (file.extension() != ".json" && !std::filesystem::exists(file)) {
        std::vector<std::string> names;
        for (const auto& t : shippedTemplates()) names.push_back('"' + t.name + '"');
        throw Error(
            fmt::format("There is no template \"{}\", and no such file; there are {}.", nameOrFile, fmt::join(names, ", ")));
    }
    const auto read = nlohmann::json::parse(readBytes(file), nullptr, false);
    if (read.is_discarded()) throw FileError(fmt::format("{} is not JSON.", file.string()));
    try {
        return templateOf(read);
    } catch (const Error& e) {
        throw FileError(fmt::format("{}: {}", file.string(), e.what()));
    }
}

PreparedSheets prepareSheets(const SheetTemplate& t, const std::vector<std::string>& items, const ProductSet& products,
                             const std::filesystem::path& out, const SheetFileOptions& options, const Progress& progress) {
    if (items.empty())
        throw Error(
            fmt::format("There is nothing that \"{}\" could be filled with: the project has no {}.", t.name, itemOf(t.kind)));
    const auto target = sheetTargetOf(out, options.as);
    const bool isOneDocument = target.as == "pdf" && !target.isFolder;
    PreparedSheets done;
    const auto fillAll = [&](std::size_t numbers) {
        done.sheets.clear();
        done.pages = 0;
        for (const auto& item : items) {
            progress.report(double(done.sheets.size()) / double(items.size()), "Filling sheets");
            done.sheets.push_back(fillSheet(t, item, products, options.date, {}, numbers > 0 ? done.pages + 1 : 0, numbers));
            done.pages += done.sheets.back().pages.size();
        }
    };
    fillAll(0);
    if (isOneDocument && items.size() > 1) fillAll(done.pages); // now that it is known how many there are
    auto& outputs = done.files;
    if (isOneDocument) {
        addPdf(outputs, out, t, done.sheets, products.project.name);
    } else if (!target.isFolder) {
        if (done.pages != 1)
            throw Error(
                fmt::format("{} can hold one page, and there are {}; give a folder.", out.filename().string(), done.pages));
        addSheetPage(outputs, out, done.sheets[0], 0, target.as, options.dotsPerInch, products.project.site->crs);
    } else {
        std::filesystem::create_directories(out);
        std::set<std::string> taken;
        for (const auto& s : done.sheets) {
            const auto wanted = fileWord(titleOf(t, s));
            auto stem = wanted;
            for (int more = 2; !taken.insert(stem).second; ++more) stem = fmt::format("{}-{}", wanted, more);
            if (target.as == "pdf") {
                addPdf(outputs, out / (stem + ".pdf"), t, {&s, 1}, products.project.name);
                continue;
            }
            for (std::size_t p = 0; p < s.pages.size(); ++p)
                addSheetPage(outputs, out / fmt::format("{}{}.{}", stem, p == 0 ? "" : fmt::format("_{}", p + 1), target.as), s,
                             p, target.as, options.dotsPerInch, products.project.site->crs);
        }
    }
    return done;
}

SheetFiles writeSheets(const SheetTemplate& t, const std::vector<std::string>& items, const ProductSet& products,
                       const std::filesystem::path& out, const SheetFileOptions& options) {
    auto done = prepareSheets(t, items, products, out, options);
    done.files.commit();
    return {done.files.targets(), std::move(done.sheets), done.pages};
}

void saveTemplate(const SheetTemplate& t, const std::filesystem::path& to) { writeBytes(to, toJson(t).dump(1) + "\n"); }

} // namespace fox
