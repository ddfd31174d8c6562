// Conversion of edition 3 files: what is read from the original is what is read from the conversion.
#include "ags_fixtures.h"
#include "fixtures.h"
#include "formats/ags.h"
#include "formats/ags_check.h"
#include "formats/ags_convert.h"
#include "holes/ags_holes.h"
#include "same_holes.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// A file with a bit of all that an edition 3 file may have.
std::string everything() {
    return ags3(
        {{"HOLE",
          "HOLE_ID|HOLE_TYPE|HOLE_NATE|HOLE_NATN|HOLE_GL|HOLE_FDEP|HOLE_ORNT|HOLE_INCL",
          "||m|m|m|m|deg|deg",
          "",
          {"BH1|CP|480500.00|6120500.00|30.00|20.00||90", "BH2|RC|480550.00|6120520.00|31.50|25.00|45|60",
           "BH3|CPT|480600.00|6120540.00|29.10|15.00|0|0"}},
         {"GEOL",
          "HOLE_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_LEG|GEOL_GEOL",
          "|m|m|||",
          "",
          {"BH1|0.00|4.00|Firm CLAY|LC|AL", "BH1|4.00|20.00|Dense SAND|SA|RG", "BH2|0.00|25.00|Stiff CLAY|LC|TL"}},
         {"ISPT",
          "HOLE_ID|ISPT_TOP|ISPT_SEAT|ISPT_MAIN|ISPT_NPEN|ISPT_NVAL|ISPT_REP|ISPT_TYPE",
          "|m|||mm|||",
          "",
          {"BH1|5.00|5|18|300|18|N=18|S", "BH1|8.00|12|50|75||50/75|C", "BH2|3.00|||| |50 for 120mm|S"}},
         {"SAMP",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SAMP_BASE|SAMP_DATE|SAMP_TIME",
          "|m|||m|dd/mm/yyyy|hhmm",
          "",
          {"BH1|2.00|1|U|2.45|1/2/04|930", "BH1|6.00|2|D||01-Feb-2004|", "BH2|10.20|7|C|10.40||", "BH2|10.90|8|C|11.00||"}},
         {"CLSS",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SPEC_REF|SPEC_DPTH|CLSS_NMC|CLSS_LL|CLSS_PL|CLSS_BDEN|CLSS_HVP|CLSS_REM",
          "|m||||m|%|%|%|Mg/m3|kN/m2|",
          "",
          {"BH1|2.00|1|U|1|2.10|24|45|21|1.95|62|slightly sandy"}},
         {"TRIG",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SPEC_REF|SPEC_DPTH|TRIG_TYPE|TRIG_COH|TRIG_PHI",
          "|m||||m||kN/m2|deg",
          "",
          {"BH1|2.00|1|U|2|2.20|CU|5|28.5", "BH1|6.00|2|D|1|6.00|UU|40|"}},
         {"TRIX",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SPEC_REF|SPEC_DPTH|TRIX_TESN|TRIX_CU|TRIX_CELL",
          "|m||||m||kN/m2|kN/m2",
          "",
          {"BH1|2.00|1|U|2|2.20|1||100", "BH1|6.00|2|D|1|6.00|1|38|150"}},
         {"STCN",
          "HOLE_ID|STCN_DPTH|STCN_TYP|STCN_REF|STCN_RES|STCN_FRES",
          "|m|||MN/m2|kN/m2",
          "",
          {"BH3|0.02|E|C15|1.2|15", "BH3|0.04|E|C15|2.2|18", "BH3|0.06|E|C15|3.1|22"}},
         {"WSTK",
          "HOLE_ID|WSTK_DEP|WSTK_NMIN|WSTK_POST|WSTK_DATE|WSTK_TIME",
          "|m|min|m|dd/mm/yyyy|hhmm",
          "",
          {"BH1|5.00|0|5.00|11/02/2004|1015", "BH1|5.00|20|3.80|11/02/2004|1035"}},
         {"PREF",
          "HOLE_ID|PREF_TDEP|PREF_REF|PREF_TRZ|PREF_BRZ|PREF_DATE",
          "|m||m|m|dd/mm/yyyy",
          "",
          {"BH1|12.00|P1|10.00|12.00|12/02/2004"}},
         {"POBS",
          "HOLE_ID|PREF_TDEP|POBS_DATE|POBS_TIME|POBS_DEP|POBS_HEAD",
          "|m|dd/mm/yyyy|hhmm|m|m",
          "",
          {"BH1|12.00|13/02/2004|0900|4.10|", "BH1|12.00|14/03/2004||Dry|", "BH1|12.00|15/04/2004|1400||7.50"}},
         {"CORE", "HOLE_ID|CORE_TOP|CORE_BOT|CORE_PREC|CORE_SREC|CORE_RQD", "|m|m|%|%|%", "", {"BH2|10.00|11.50|100|90|75"}},
         {"ROCK",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SPEC_REF|SPEC_DPTH|ROCK_UCS|ROCK_PLSI|ROCK_PORO|ROCK_REM",
          "|m||||m|MN/m2|MN/m2|%|",
          "",
          {"BH2|10.20|7|C|1|10.25|45.2|2.1||across bedding", "BH2|10.90|8|C|1|10.90|||12.5|"}},
         {"IPRM",
          "HOLE_ID|IPRM_TOP|IPRM_BASE|IPRM_TYPE|IPRM_IPRM",
          "|m|m||m/s",
          "",
          {"BH2|12.00|14.00|PACKER|2.0e-6", "BH2|15.00|17.00|PACKER|<1e-8"}},
         {"DPRG", "HOLE_ID|DPRG_TYPE|DPRG_MASS", "||kg", "", {"BH1|DPSH|63.5"}},
         {"DPRB", "HOLE_ID|DPRB_DPTH|DPRB_BLOW|DPRB_INC", "|m||mm", "", {"BH1|0.10|3|100", "BH1|0.20|5|100"}},
         {"PTST",
          "HOLE_ID|SAMP_TOP|SAMP_REF|SAMP_TYPE|SPEC_REF|SPEC_DPTH|PTST_TESN|PTST_K",
          "|m||||m||m/s",
          "",
          {"BH1|2.00|1|U|3|2.30|1|3.1e-9"}},
         {"ICBR", "HOLE_ID|ICBR_DPTH|ICBR_ICBR", "|m|%", "", {"BH1|0.50|5"}},
         {"?ETH", "HOLE_ID|?ETH_TOP|?ETH_BASE|?ETH_GRAD", "|m|m|", "", {"BH2|5.00|8.00|II"}},
         {"ABBR",
          "ABBR_HDNG|ABBR_CODE|ABBR_DESC",
          "",
          "",
          {"GEOL_GEOL|AL|Alluvium", "GEOL_GEOL|RG|River gravel", "GEOL_GEOL|TL|Till"}}});
}

} // namespace

TEST_CASE("Holes read from an edition 3 file and from its conversion are the same", "[ags][conversion]") {
    const auto original = readAgs(everything(), "three.ags");
    const auto converted = toAgs41(original);
    const auto file = readAgs(converted.text, "four.ags");
    for (const auto& f : checkAgs(file))
        if (f.severity == Severity::Error) UNSCOPED_INFO(describe(f));
    CHECK(count(checkAgs(file), Severity::Error) == 0);
    const auto before = holesOf(original).holes, after = holesOf(file).holes;
    REQUIRE(before.size() == 3);
    checkSame(before, after);
}

TEST_CASE("A conversion knows dates, tests of effective stress, weathering and remarks", "[ags][conversion]") {
    const auto converted = toAgs41(readAgs(everything(), "three.ags"));
    const auto file = readAgs(converted.text, "four.ags");
    const auto cell = [&](const char* group, std::size_t row, const char* heading) {
        const auto* g = file.group(group);
        REQUIRE(g);
        REQUIRE(row < g->rows.size());
        const auto c = g->column(heading);
        return c ? std::string(g->cell(row, *c)) : std::string("(no column)");
    };
    CHECK(cell("SAMP", 0, "SAMP_DTIM") == "2004-02-01T09:30");
    CHECK(cell("SAMP", 1, "SAMP_DTIM") == "2004-02-01"); // never an invented time
    CHECK(cell("TREG", 0, "TREG_COH") == "5");
    CHECK(cell("TRIG", 0, "TRIG_COH") == "40");
    CHECK(cell("TRET", 0, "TRET_CELL") == "100");
    CHECK(cell("TRIT", 0, "TRIT_CU") == "38");
    CHECK(cell("WETH", 0, "WETH_WETH") == "II");
    CHECK(cell("LVAN", 0, "LVAN_HVP") == "62");
    CHECK(cell("LDEN", 0, "LDEN_REM") == "slightly sandy");
    CHECK(cell("LLPL", 0, "LLPL_REM") == "slightly sandy");
    CHECK(file.group("SCPG")->rows.size() == 1);
    CHECK(file.group("SCPT")->rows.size() == 3);
    REQUIRE(file.group("HORN"));
    CHECK(file.group("HORN")->rows.size() == 2); // none for the hole whose inclination is 0
    CHECK(std::ranges::any_of(converted.notes, [](const std::string& n) { return n.find("HOLE_INCL is 0") != n.npos; }));
    CHECK(std::ranges::none_of(converted.text, [](char c) { return c < 0; }));
}

TEST_CASE("Dates that are none stay as they are, with a note, and letters become ASCII", "[ags][conversion]") {
    const auto converted = toAgs41(readAgs(ags3({{"HOLE",
                                                  "HOLE_ID|HOLE_STAR|HOLE_REM",
                                                  "|dd/mm/yyyy|",
                                                  "",
                                                  {"BH1|spring 2004|45\xC2\xB0 \xE2\x80\x9Csoft\xE2\x80\x9D"}}}),
                                           "three.ags"));
    CHECK(converted.text.find("spring 2004") != std::string::npos);
    CHECK(std::ranges::any_of(converted.notes,
                              [](const std::string& n) { return n.find("date is none that can be read") != n.npos; }));
    CHECK(converted.text.find("45 deg \"\"soft\"\"") != std::string::npos);
    CHECK(std::ranges::none_of(converted.text, [](char c) { return c < 0; }));
}
