// Five million readings of cones in 2,000 pushes: from the bytes of an AGS file to holes, and a log of one of them.
#include "base/text.h"
#include "bench.h"
#include "importing/import.h"
#include "paper/render.h"
#include "sheets/log_drawing.h"

namespace fox::bench {

namespace {

constexpr int kPushes = 2000, kReadings = 2500;

std::string conesAsAgs() {
    std::mt19937 random(2);
    std::uniform_real_distribution<double> share(0, 1);
    std::string out =
        "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"P1\"\r\n\r\n"
        "\"GROUP\",\"LOCA\"\r\n\"HEADING\",\"LOCA_ID\",\"LOCA_TYPE\",\"LOCA_NATE\",\"LOCA_NATN\",\"LOCA_GL\",\"LOCA_"
        "FDEP\"\r\n\"UNIT\",\"\",\"\",\"m\",\"m\",\"m\",\"m\"\r\n"
        "\"TYPE\",\"ID\",\"PA\",\"2DP\",\"2DP\",\"2DP\",\"2DP\"\r\n";
    for (int i = 0; i < kPushes; ++i)
        out += fmt::format("\"DATA\",\"C{:04}\",\"CPT\",\"{}.00\",\"{}.00\",\"30.00\",\"25.00\"\r\n", i, 480000 + i % 50 * 40,
                           6120000 + i / 50 * 40);
    out += "\r\n\"GROUP\",\"SCPG\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPG_TESN\",\"SCPG_WAT\",\"SCPG_CAR\"\r\n"
           "\"UNIT\",\"\",\"\",\"m\",\"\"\r\n\"TYPE\",\"ID\",\"X\",\"2DP\",\"2DP\"\r\n";
    for (int i = 0; i < kPushes; ++i) out += fmt::format("\"DATA\",\"C{:04}\",\"1\",\"2.00\",\"0.80\"\r\n", i);
    out += "\r\n\"GROUP\",\"SCPT\"\r\n\"HEADING\",\"LOCA_ID\",\"SCPG_TESN\",\"SCPT_DPTH\",\"SCPT_RES\",\"SCPT_FRES\",\"SCPT_"
           "PWP2\"\r\n\"UNIT\",\"\",\"\",\"m\",\"MN/m2\",\"MN/m2\",\"kPa\"\r\n"
           "\"TYPE\",\"ID\",\"X\",\"2DP\",\"3DP\",\"4DP\",\"1DP\"\r\n";
    for (int i = 0; i < kPushes; ++i)
        for (int k = 1; k <= kReadings; ++k)
            out += fmt::format("\"DATA\",\"C{:04}\",\"1\",\"{:.2f}\",\"{:.3f}\",\"{:.4f}\",\"{:.1f}\"\r\n", i, 0.01 * k,
                               20 * share(random), 0.3 * share(random), 200 * share(random));
    return out;
}

/// Every field between commas, as the least that a reader does.
std::size_t fieldsOf(const std::string& text) {
    std::size_t fields = 0;
    for (const auto line : split(std::string_view(text), '\n')) fields += split(line, ',').size();
    return fields;
}

} // namespace

void soundings() {
    const auto text = conesAsAgs();
    std::size_t fields = 0;
    const double bare = seconds(2, [&] { fields = fieldsOf(text); });
    ImportPreview read;
    const double ours = seconds(2, [&] {
        read = {};
        SourceFile file;
        file.name = "cones.ags", file.bytes = text;
        read = readSource(std::move(file), SiteContext(""));
    });
    std::size_t readings = 0;
    for (const auto& h : read.holes)
        for (const auto& c : h.curves) readings += c.readings->size();
    fmt::print("  {:.0f} MB, {} fields, {} holes, {} values\n", double(text.size()) / 1e6, fields, read.holes.size(), readings);
    fmt::print("  read {:.2f} s (under 10), splitting lines and fields alone {:.2f} s, ratio {:.1f}; peak {:.0f} MB\n", ours,
               bare, ours / bare, peakMegabytes());
    Sequence sequence;
    LogContent content{&read.holes[1000], nullptr, &sequence, "C1000", {}};
    LogLayout layout;
    layout.area.include({0, 0});
    layout.area.include({190, 250});
    layout.deepest = 25;
    std::size_t items = 0;
    const double drawn = seconds(10, [&] { items = drawLog(content, layout).items.size(); });
    const auto drawing = drawLog(content, layout);
    const double painted = seconds(5, [&] { paper::toBitmap(drawing, 96 / 25.4); }); // as the window does
    fmt::print("  a log drawn {:.1f} ms ({} items), painted in pixels {:.1f} ms (under 50 together)\n", drawn * 1000, items,
               painted * 1000);
}

} // namespace fox::bench
