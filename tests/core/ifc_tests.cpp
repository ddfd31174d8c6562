// STEP files, and the model as IFC.
#include "formats/step_file.h"
#include "handover/ifc_model.h"
#include "handover/model_scene.h"
#include "layered_fixtures.h"
#include "model/solids.h"

#include <catch2/catch.hpp>
#include <regex>

using namespace fox;
using namespace fox::test;

TEST_CASE("Values of a STEP file are written as the standard has them", "[ifc]") {
    using V = StepValue;
    CHECK(V::string("it's a \\").text == "'it''s a \\\\'");
    CHECK(V::string("Träger 𝛼").text == "'Tr\\X2\\00E4\\X0\\ger \\X4\\0001D6FC\\X0\\'");
    CHECK(V::string("line\nbreak").text == "'line\\X2\\000A\\X0\\break'");
    CHECK(V::real(3).text == "3.");
    CHECK(V::real(-0.25).text == "-0.25");
    CHECK(V::real(1e-20).text == "1.E-20");
    CHECK(V::real(1.5e300).text == "1.5E+300");
    CHECK(V::list({V::none(), V::derived(), V::boolean(true), V::integer(-4), V::reference(7)}).text == "($,*,.T.,-4,#7)");
    CHECK(V::typed("IFCLABEL", V::string("x")).text == "IFCLABEL('x')");
    CHECK(V::list({}).text == "()");
    StepFile file;
    CHECK(file.add("A", {V::enumeration("SOLID")}) == 1);
    CHECK(file.add("B", {V::reference(1)}) == 2);
    const auto text = file.text({"view", "name", "2026-11-30T09:00:00", "Fox Cellar", "IFC4X3_ADD2"});
    CHECK(text.find("#1=A(.SOLID.);\n#2=B(#1);\nENDSEC;") != text.npos);
    CHECK(text.starts_with("ISO-10303-21;\nHEADER;\n"));
    CHECK(text.ends_with("END-ISO-10303-21;\n"));
}

TEST_CASE("A global id of IFC is 22 letters that follow from its words", "[ifc]") {
    std::set<std::string> all;
    for (int i = 0; i < 2000; ++i) {
        const auto id = ifcId("hole/" + std::to_string(i));
        CHECK(std::regex_match(id, std::regex("[0-3][0-9A-Za-z_$]{21}")));
        all.insert(id);
    }
    CHECK(all.size() == 2000);
    CHECK(ifcId("unit/RG") == ifcId("unit/RG"));
}

namespace {

/// Lines of the data, by their number.
struct IfcText {
    explicit IfcText(const std::string& text) {
        std::size_t at = 0;
        while (at < text.size()) {
            const auto end = text.find('\n', at);
            const auto one = text.substr(at, end - at);
            at = end + 1;
            if (one.empty() || one[0] != '#') continue;
            const auto equal = one.find('='), open = one.find('(');
            const auto number = std::stoul(one.substr(1, equal - 1));
            type[number] = one.substr(equal + 1, open - equal - 1);
            attributes[number] = one.substr(open + 1, one.size() - open - 3);
        }
    }
    std::vector<std::size_t> of(const std::string& name) const {
        std::vector<std::size_t> out;
        for (const auto& [n, t] : type)
            if (t == name) out.push_back(n);
        return out;
    }
    static std::vector<double> numbers(const std::string& text) {
        std::vector<double> out;
        const char* at = text.c_str();
        while (*at) {
            char* end = nullptr;
            const double v = std::strtod(at, &end);
            if (end == at)
                ++at;
            else
                out.push_back(v), at = end;
        }
        return out;
    }
    /// The triangles of a face set.
    TriangleMesh faces(std::size_t number) const {
        const auto& words = attributes.at(number);
        const auto points = numbers(attributes.at(std::stoul(words.substr(1))));
        const auto corners = numbers(words.substr(words.find("((")));
        TriangleMesh out;
        for (std::size_t i = 0; i + 2 < points.size(); i += 3) out.vertices.push_back({points[i], points[i + 1], points[i + 2]});
        for (std::size_t i = 0; i + 2 < corners.size(); i += 3)
            out.triangles.push_back({int(corners[i]) - 1, int(corners[i + 1]) - 1, int(corners[i + 2]) - 1});
        return out;
    }
    std::map<std::size_t, std::string> type, attributes;
};

} // namespace

TEST_CASE("The model as IFC has the units' volumes, and every hole with its intervals", "[ifc]") {
    auto project = unevenSite(3);
    auto sequence = *project.sequence;
    sequence.units[1].values = {{"conductivity", 1e-8}, {"unit_weight", 19.5}};
    project.sequence = part(std::move(sequence));
    project.site = part(Site{"EPSG:25831", {}, {}});
    const auto set = Products().of(project, {}, {ProductKind::Grids, ProductKind::WaterSurfaces});
    const auto text = ifcOf(*set, "2026-11-30T09:00:00");
    const IfcText file(text);
    CHECK(text.find("FILE_SCHEMA(('IFC4X3_ADD2'))") != text.npos);
    // every reference is to something that stands before it or is known
    std::size_t references = 0, unknown = 0;
    for (const auto& [number, words] : file.attributes) {
        bool quoted = false;
        for (std::size_t i = 0; i < words.size(); ++i) {
            quoted = quoted != (words[i] == '\'');
            if (quoted || words[i] != '#') continue;
            ++references, unknown += !file.type.contains(std::stoul(words.substr(i + 1)));
        }
    }
    CHECK(references > file.type.size());
    CHECK(unknown == 0);
    double volume = 0, ofCells = 0;
    std::size_t closed = 0;
    for (const auto n : file.of("IFCTRIANGULATEDFACESET")) {
        if (file.attributes.at(n).find(",$,.T.,") == std::string::npos) continue;
        const auto body = file.faces(n);
        CHECK(isClosed(body));
        volume += volumeOf(body), ++closed;
    }
    std::size_t units = 0;
    for (const auto& v : set->volumes->units) ofCells += v.volume, units += v.volume > 0;
    CHECK(closed == units);
    CHECK(volume == Approx(ofCells).epsilon(1e-6));
    CHECK(file.of("IFCBOREHOLE").size() == project.holes->size());
    std::size_t intervals = 0;
    for (const auto& h : *project.holes) intervals += h.intervals.size();
    CHECK(file.of("IFCSWEPTDISKSOLID").size() == intervals);
    CHECK(file.of("IFCGEOTECHNICALSTRATUM").size() == intervals + units);
    CHECK(file.of("IFCGEOMODEL").size() == 1);
    const auto conversion = file.attributes.at(file.of("IFCMAPCONVERSION").front());
    CHECK(conversion.find(fmt::format("{:.0f}.,{:.0f}.", localOrigin(*set).x, localOrigin(*set).y)) != conversion.npos);
    CHECK(text.find("IFCREAL(1.E-08)") != text.npos);
    CHECK(text.find("'m/s'") != text.npos);
    CHECK(text.find("IFCREAL(19.5)") != text.npos);
    // global ids are all different, and the same the next time
    std::set<std::string> ids;
    std::size_t rooted = 0;
    for (const auto& [n, words] : file.attributes)
        if (words.size() > 24 && words[0] == '\'' && words[23] == '\'' && words[24] == ',')
            ids.insert(words.substr(1, 22)), ++rooted;
    CHECK(ids.size() == rooted);
    CHECK(rooted > project.holes->size());
    CHECK(ifcOf(*set, "2026-11-30T09:00:00") == text);
    CHECK_THROWS_AS(ifcOf(*Products().of(Project{}, {}, {ProductKind::Grids}), ""), Error);
}

TEST_CASE("Positions in IFC are the project's, less the origin, to the millimetre", "[ifc]") {
    const auto set = Products().of(flatSite(), {}, {ProductKind::Grids, ProductKind::WaterSurfaces});
    const IfcText file(ifcOf(*set, ""));
    const auto origin = localOrigin(*set);
    std::set<std::array<double, 3>> places;
    for (const auto n : file.of("IFCCARTESIANPOINT")) {
        const auto p = IfcText::numbers(file.attributes.at(n));
        places.insert({p[0] + origin.x, p[1] + origin.y, p[2]});
    }
    for (const auto& h : *set->project.holes)
        for (const double level : {10.0, 6.0, 4.0, 0.0, -4.0})
            CHECK(std::ranges::any_of(places, [&](const auto& p) {
                return std::abs(p[0] - *h.easting) < 1e-3 && std::abs(p[1] - *h.northing) < 1e-3 && std::abs(p[2] - level) < 1e-3;
            }));
}
