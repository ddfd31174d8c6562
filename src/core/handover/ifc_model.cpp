#include "handover/ifc_model.h"

#include "base/errors.h"
#include "formats/step_file.h"
#include "handover/model_scene.h"
#include "model/solids.h"
#include "sequence/test_values.h"
#include "sheets/unit_style.h"

#include <boost/uuid/name_generator_sha1.hpp>
#include <boost/uuid/uuid.hpp>

namespace fox {

namespace {

using V = StepValue;
using Id = std::size_t;

V words(std::string_view text) { return text.empty() ? V::none() : V::string(text); }
V ref(Id id) { return V::reference(id); }

/// A number of a file with six decimals: a thousandth of a millimetre.
double rounded(double v) { return std::round(v * 1e6) / 1e6; }

/// Writes one project.
class IfcMaker {
public:
    explicit IfcMaker(const ProductSet& set)
        : m_set(set), m_project(set.project), m_units(set.project.sequence->units), m_origin(localOrigin(set)) {}

    std::string make(const std::string& time) {
        begin();
        units();
        ground();
        water();
        faults();
        holes();
        m_file.add("IFCRELCONTAINEDINSPATIALSTRUCTURE",
                   {id("contained"), V::none(), V::none(), V::none(), V::references(m_contained), ref(m_site)});
        for (const auto& [property, definition] : m_described)
            m_file.add("IFCRELDEFINESBYPROPERTIES", {id(fmt::format("defines/{}", property)), V::none(), V::none(), V::none(),
                                                     V::references(definition), ref(property)});
        return m_file.text({"ViewDefinition [NotAssigned]", m_project.name, time, "Fox Cellar", "IFC4X3_ADD2"});
    }

private:
    V id(const std::string& what) const { return V::string(ifcId(m_project.name + "/" + what)); }
    V point(double x, double y, double z) const { return V::list({V::real(x), V::real(y), V::real(z)}); }
    Id cartesianPoint(Point3 p) { return m_file.add("IFCCARTESIANPOINT", {local(p)}); }
    V local(Point3 p) const { return point(rounded(p.x - m_origin.x), rounded(p.y - m_origin.y), rounded(p.z)); }

    void begin() {
        const auto origin = m_file.add("IFCCARTESIANPOINT", {point(0, 0, 0)});
        const auto axes = m_file.add("IFCAXIS2PLACEMENT3D", {ref(origin), V::none(), V::none()});
        m_context = m_file.add("IFCGEOMETRICREPRESENTATIONCONTEXT",
                               {V::none(), V::string("Model"), V::integer(3), V::real(1e-6), ref(axes), V::none()});
        m_body = m_file.add("IFCGEOMETRICREPRESENTATIONSUBCONTEXT",
                            {V::string("Body"), V::string("Model"), V::derived(), V::derived(), V::derived(), V::derived(),
                             ref(m_context), V::none(), V::enumeration("MODEL_VIEW"), V::none()});
        const auto si = [&](const char* kind, const char* name, const char* prefix = nullptr) {
            return m_file.add("IFCSIUNIT", {V::derived(), V::enumeration(kind), prefix ? V::enumeration(prefix) : V::none(),
                                            V::enumeration(name)});
        };
        m_metre = si("LENGTHUNIT", "METRE");
        m_second = si("TIMEUNIT", "SECOND");
        m_kilonewton = si("FORCEUNIT", "NEWTON", "KILO");
        const auto assigned = m_file.add("IFCUNITASSIGNMENT",
                                         {V::references({m_metre, si("AREAUNIT", "SQUARE_METRE"), si("VOLUMEUNIT", "CUBIC_METRE"),
                                                         si("PLANEANGLEUNIT", "RADIAN"), m_second})});
        const auto project = m_file.add("IFCPROJECT", {id("project"), V::none(), words(m_project.name), V::none(), V::none(),
                                                       V::none(), V::none(), V::references({m_context}), ref(assigned)});
        if (const auto& crs = m_project.site->crs; !crs.empty()) {
            const auto target = m_file.add("IFCPROJECTEDCRS",
                                           {V::string(crs), V::none(), V::none(), V::none(), V::none(), V::none(), ref(m_metre)});
            m_file.add("IFCMAPCONVERSION", {ref(m_context), ref(target), V::real(m_origin.x), V::real(m_origin.y), V::real(0),
                                            V::real(1), V::real(0), V::real(1)});
        }
        m_placement = m_file.add("IFCLOCALPLACEMENT", {V::none(), ref(axes)});
        m_site = m_file.add("IFCSITE",
                            {id("site"), V::none(), words(m_project.name), V::none(), V::none(), ref(m_placement), V::none(),
                             V::none(), V::enumeration("ELEMENT"), V::none(), V::none(), V::none(), V::none(), V::none()});
        m_file.add("IFCRELAGGREGATES",
                   {id("site in project"), V::none(), V::none(), V::none(), ref(project), V::references({m_site})});
        m_model = element("IFCGEOMODEL", "model", "Ground model", "", "", V::none());
        m_contained.push_back(m_model);
    }

    /// An element, its attributes up to the tag; `more` come behind these.
    Id element(const char* type, const std::string& what, const std::string& name, const std::string& description,
               const std::string& kind, const V& shape, const std::vector<V>& more = {}) {
        std::vector<V> attributes{id(what),    V::none(),        words(name), words(description),
                                  words(kind), ref(m_placement), shape,       V::none()};
        attributes.insert(attributes.end(), more.begin(), more.end());
        return m_file.add(type, attributes);
    }

    Id shape(Id item, const char* kind) {
        const auto representation =
            m_file.add("IFCSHAPEREPRESENTATION", {ref(m_body), V::string("Body"), V::string(kind), V::references({item})});
        return m_file.add("IFCPRODUCTDEFINITIONSHAPE", {V::none(), V::none(), V::references({representation})});
    }

    Id faceSet(const TriangleMesh& mesh, bool closed, Id style) {
        std::string points = "(", faces = "(";
        for (const auto& v : mesh.vertices) points += (points.size() > 1 ? "," : "") + local(v).text;
        for (const auto& [a, b, c] : mesh.triangles)
            fmt::format_to(std::back_inserter(faces), "{}({},{},{})", faces.size() > 1 ? "," : "", a + 1, b + 1, c + 1);
        const auto list = m_file.add("IFCCARTESIANPOINTLIST3D", {V{points + ")"}, V::none()});
        const auto set =
            m_file.add("IFCTRIANGULATEDFACESET", {ref(list), V::none(), V::boolean(closed), V{faces + ")"}, V::none()});
        m_file.add("IFCSTYLEDITEM", {ref(set), V::references({style}), V::none()});
        return shape(set, "Tessellation");
    }

    Id style(const std::string& name, paper::Colour c) {
        const auto part = [](std::uint8_t v) { return V::real(std::round(v / 255.0 * 1e4) / 1e4); };
        const auto colour = m_file.add("IFCCOLOURRGB", {V::none(), part(c.red), part(c.green), part(c.blue)});
        const auto shading = m_file.add("IFCSURFACESTYLESHADING", {ref(colour), V::real(1 - c.alpha / 255.0)});
        return m_file.add("IFCSURFACESTYLE", {words(name), V::enumeration("BOTH"), V::references({shading})});
    }
    Id styleOf(std::optional<std::size_t> unit) {
        const auto [at, isNew] = m_styles.try_emplace(unit ? int(*unit) : -1, 0);
        if (isNew)
            at->second =
                unit ? style(m_units[*unit].code, colourOf(m_units[*unit])) : style("Without a unit", {0x9A, 0x93, 0x88});
        return at->second;
    }

    // --- properties

    /// m/s and what else values of units have.
    V measureOf(const std::string& unit) {
        if (unit.empty()) return V::none();
        const auto [at, isNew] = m_valueUnits.try_emplace(unit, 0);
        if (!isNew) return ref(at->second);
        const auto part = [&](Id of, int power) { return m_file.add("IFCDERIVEDUNITELEMENT", {ref(of), V::integer(power)}); };
        std::vector<Id> parts;
        if (unit == "m/s")
            parts = {part(m_metre, 1), part(m_second, -1)};
        else if (unit == "1/m")
            parts = {part(m_metre, -1)};
        else if (unit == "kN/m³" || unit == "kN/m3")
            parts = {part(m_kilonewton, 1), part(m_metre, -3)};
        else if (unit == "m")
            return at->second = m_metre, ref(m_metre);
        if (parts.empty()) { // a unit of somebody's own
            const auto none = m_file.add("IFCDIMENSIONALEXPONENTS", std::vector<V>(7, V::integer(0)));
            return at->second =
                       m_file.add("IFCCONTEXTDEPENDENTUNIT", {ref(none), V::enumeration("USERDEFINED"), V::string(unit)}),
                   ref(at->second);
        }
        return at->second = m_file.add("IFCDERIVEDUNIT",
                                       {V::references(parts), V::enumeration("USERDEFINED"), V::string(unit), V::none()}),
               ref(at->second);
    }
    Id property(const std::string& name, const V& value, const std::string& unit = {}) {
        return m_file.add("IFCPROPERTYSINGLEVALUE", {V::string(name), V::none(), value, measureOf(unit)});
    }
    Id property(const std::string& name, double value, const std::string& unit) {
        return property(name, V::typed("IFCREAL", V::real(value)), unit);
    }
    Id property(const std::string& name, const std::string& text) { return property(name, V::typed("IFCTEXT", V::string(text))); }
    void describe(Id what, const std::string& key, const char* setName, const std::vector<Id>& properties) {
        if (properties.empty()) return;
        const auto set = m_file.add("IFCPROPERTYSET", {id("set/" + key + "/" + setName), V::none(), V::string(setName), V::none(),
                                                       V::references(properties)});
        m_described.push_back({set, {what}});
    }

    // --- things

    void units() {
        std::vector<Id> all;
        const auto& grid = *m_set.modelGrid;
        for (std::size_t u = 0; u < grid.unitsWithBase(); ++u) {
            const auto& unit = m_units[u];
            const auto body = solidOf(grid, u, unit.code);
            if (body.triangles.empty()) continue;
            const auto key = "unit/" + unit.code;
            const auto stratum = element("IFCGEOTECHNICALSTRATUM", key, unit.code, unit.name, "",
                                         ref(faceSet(body, true, styleOf(u))), {V::enumeration("SOLID")});
            all.push_back(stratum);
            std::vector<Id> values{
                property("Place in the sequence, from the youngest", V::typed("IFCINTEGER", V::integer(std::int64_t(u + 1)))),
                property("Surface of the base", methodInWords(methodOf(unit.recipe)))};
            for (const auto& v : m_set.volumes->units)
                if (v.unit == u)
                    values.insert(values.end(),
                                  {property("Volume of the model's cells", V::typed("IFCVOLUMEMEASURE", V::real(v.volume))),
                                   property("Mean thickness", v.meanThickness, "m"),
                                   property("Largest thickness", v.maxThickness, "m")});
            describe(stratum, key, "Model", values);
            values.clear();
            for (const auto& kind : m_project.sequence->valueKinds())
                if (const auto at = unit.values.find(kind.key); at != unit.values.end())
                    values.push_back(property(kind.words, at->second, kind.unit));
            describe(stratum, key, "Values", values);
        }
        if (!all.empty())
            m_file.add("IFCRELAGGREGATES",
                       {id("units in model"), V::none(), V::none(), V::none(), ref(m_model), V::references(all)});
    }

    void ground() {
        TriangleMesh mesh;
        if (m_set.terrain && m_set.terrain->rasters.empty() && !m_set.terrain->tin.empty() && m_project.site->limit.empty()) {
            mesh.vertices = m_set.terrain->tin.vertices();
            for (const auto& t : m_set.terrain->tin.triangles()) mesh.triangles.push_back(t.vertex);
        } else {
            mesh = surfaceMesh(m_set.modelGrid->ground, "Ground");
        }
        if (mesh.triangles.empty()) return;
        const auto item = faceSet(mesh, false, style("Ground", {0xA9, 0xB8, 0x8F}));
        m_contained.push_back(
            element("IFCGEOGRAPHICELEMENT", "ground", "Ground", "", "", ref(item), {V::enumeration("TERRAIN")}));
    }

    void water() {
        for (std::size_t i = 0; i < m_set.waterSurfaces.size(); ++i) {
            const auto& made = m_set.waterSurfaces[i];
            const auto& name = (*m_project.waterSurfaces)[i].name;
            if (!made || !made->levels) continue;
            const auto mesh = surfaceMesh(*made->levels, name);
            if (mesh.triangles.empty()) continue;
            m_contained.push_back(element("IFCGEOTECHNICALSTRATUM", "water/" + name, name, "", "",
                                          ref(faceSet(mesh, false, style(name, paper::kSlate.withAlpha(0x90)))),
                                          {V::enumeration("WATER")}));
        }
    }

    void faults() {
        for (const auto& f : m_project.interpretation->faults) {
            const auto mesh = faultSheet(m_set, f.fault);
            if (mesh.triangles.empty()) continue;
            const auto key = "fault/" + f.fault.name;
            const auto fault =
                element("IFCGEOTECHNICALSTRATUM", key, f.fault.name, "", "Fault",
                        ref(faceSet(mesh, false, style("Fault", {0xA8, 0x32, 0x2A, 0xB0}))), {V::enumeration("USERDEFINED")});
            m_contained.push_back(fault);
            std::string stepped;
            for (const auto& code : f.units) stepped += (stepped.empty() ? "" : ", ") + code;
            if (!stepped.empty()) describe(fault, key, "Fault", {property("Bases that it steps", stepped)});
        }
    }

    void holes() {
        const auto& all = *m_project.holes;
        const auto names = displayNames(all);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const auto path = HolePath::of(all[i]);
            if (!path) continue;
            const auto key = "hole/" + names[i];
            const auto hole = element("IFCBOREHOLE", key, names[i], typeInWords(all[i].type), all[i].type, V::none());
            m_contained.push_back(hole);
            describeHole(hole, key, all[i], *path);
            std::vector<Id> intervals;
            const InterpretedHole* read = nullptr;
            for (const auto& r : m_set.reading->holes)
                if (r.index == i) read = &r;
            int number = 0;
            for (const auto& interval : read ? read->logged() : all[i].intervals)
                if (interval.usable()) intervals.push_back(stratumOf(fmt::format("{}/{}", key, ++number), interval, read, *path));
            if (!intervals.empty())
                m_file.add("IFCRELAGGREGATES",
                           {id(key + "/intervals"), V::none(), V::none(), V::none(), ref(hole), V::references(intervals)});
        }
    }

    Id stratumOf(const std::string& key, const Interval& interval, const InterpretedHole* read, const HolePath& path) {
        const auto unit = read ? unitOf(*read, interval) : std::nullopt;
        std::vector<Id> points;
        for (const auto& p : pathBetween(path, interval.top, interval.base)) points.push_back(cartesianPoint(p));
        const auto line = m_file.add("IFCPOLYLINE", {V::references(points)});
        const auto disk = m_file.add("IFCSWEPTDISKSOLID", {ref(line), V::real(kRadius), V::none(), V::none(), V::none()});
        m_file.add("IFCSTYLEDITEM", {ref(disk), V::references({styleOf(unit)}), V::none()});
        const auto stratum = element("IFCGEOTECHNICALSTRATUM", key, unit ? m_units[*unit].code : "", interval.description, "",
                                     ref(shape(disk, "AdvancedSweptSolid")), {V::enumeration("SOLID")});
        std::vector<Id> values{property("Depth to top", interval.top.metres, "m"),
                               property("Depth to base", interval.base.metres, "m")};
        if (unit) values.push_back(property("Unit", m_units[*unit].code));
        for (const auto& [heading, code] : interval.codes) values.push_back(property(heading, code));
        describe(stratum, key, "Interval", values);
        return stratum;
    }

    void describeHole(Id hole, const std::string& key, const Hole& h, const HolePath& path) {
        const auto top = path.at(Depth{0});
        std::vector<Id> values{property("Easting", top.x, "m"), property("Northing", top.y, "m"),
                               property("Ground level", top.z, "m"), property("Depth", h.end().metres, "m")};
        for (std::size_t n = 0; n < h.strikes.size(); ++n) {
            values.push_back(property(fmt::format("Water strike {}: depth", n + 1), h.strikes[n].depth.metres, "m"));
            if (const auto rose = h.strikes[n].roseTo)
                values.push_back(property(fmt::format("Water strike {}: rose to depth", n + 1), rose->metres, "m"));
        }
        if (!h.file.empty()) values.push_back(property("File", h.file));
        describe(hole, key, "Hole", values);
        std::vector<Id> tests;
        if (!h.blowCounts.empty()) {
            std::vector<V> depths, blows;
            for (const auto& b : h.blowCounts) {
                depths.push_back(V::typed("IFCLENGTHMEASURE", V::real(b.depth.metres)));
                blows.push_back(V::typed("IFCTEXT", V::string(fox::words(b))));
            }
            tests.push_back(table("Standard penetration test, blows", depths, blows, {}));
        }
        std::map<std::string, int> named;
        for (const auto& c : h.curves) {
            if (!c.single || !c.readings || c.readings->empty()) continue;
            std::vector<V> depths, results;
            for (const auto& r : *c.readings) {
                if (std::isnan(r.value)) continue;
                depths.push_back(V::typed("IFCLENGTHMEASURE", V::real(r.depth)));
                results.push_back(V::typed("IFCREAL", V::real(r.value)));
            }
            if (depths.empty()) continue;
            const auto name = c.words.empty() ? c.name : c.words;
            const int n = ++named[name]; // no two properties of a set may be called the same
            tests.push_back(table(n > 1 ? fmt::format("{} ({})", name, n) : name, depths, results, c.unit));
        }
        describe(hole, key, "Tests", tests);
    }
    Id table(const std::string& name, const std::vector<V>& depths, const std::vector<V>& results, const std::string& unit) {
        return m_file.add("IFCPROPERTYTABLEVALUE", {V::string(name), V::none(), V::list(depths), V::list(results), V::none(),
                                                    ref(m_metre), measureOf(unit), V::none()});
    }
    static constexpr double kRadius = 0.1; ///< metres, of a hole's column

    const ProductSet& m_set;
    const Project& m_project;
    const std::vector<Unit>& m_units;
    Point2 m_origin;
    StepFile m_file;
    Id m_context = 0, m_body = 0, m_metre = 0, m_second = 0, m_kilonewton = 0, m_placement = 0, m_site = 0, m_model = 0;
    std::vector<Id> m_contained;
    std::vector<std::pair<Id, std::vector<Id>>> m_described;
    std::map<int, Id> m_styles;
    std::map<std::string, Id> m_valueUnits;
};

} // namespace

std::string ifcId(const std::string& words) {
    static constexpr boost::uuids::uuid kFoxCellar{
        {0x5b, 0x1d, 0x0e, 0x6a, 0x2f, 0x44, 0x4c, 0x0b, 0x9a, 0x57, 0x0f, 0x3e, 0x8c, 0x71, 0xd2, 0x16}};
    const auto uuid = boost::uuids::name_generator_sha1(kFoxCellar)(words);
    // 128 bits: two letters for the first byte, four for three bytes each after it
    static constexpr std::string_view kLetters = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";
    const auto letter = [](std::uint32_t bits) { return kLetters[bits & 63]; };
    const auto* byte = uuid.data;
    std::string out{letter(*byte >> 6u), letter(*byte)};
    for (std::size_t k = 1; k < uuid.size(); k += 3) {
        const auto bits = std::uint32_t(byte[k]) << 16 | std::uint32_t(byte[k + 1]) << 8 | byte[k + 2];
        for (const int shift : {18, 12, 6, 0}) out += letter(bits >> shift);
    }
    return out;
}

std::string ifcOf(const ProductSet& set, const std::string& time) {
    if (!set.modelGrid || set.modelGrid->bases.empty())
        throw Error("There is no model to export: the project has no ground, or no sequence, yet.");
    return IfcMaker(set).make(time);
}

} // namespace fox
