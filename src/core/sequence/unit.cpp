#include "sequence/unit.h"

#include "base/text.h"
#include "sequence/contacts.h"
#include "sequence/description.h"

#include <array>

namespace fox {

namespace {
struct ReferenceNames {
    BaseReference reference;
    const char *name, *words;
};
constexpr ReferenceNames kReferences[] = {{BaseReference::Level, "level", "levels"},
                                          {BaseReference::Plane, "plane", "levels less a tilted plane"},
                                          {BaseReference::Depth, "depth", "depths below the smoothed ground"},
                                          {BaseReference::Thickness, "thickness", "thicknesses"},
                                          {BaseReference::Trend, "trend", "levels less a trend"}};
} // namespace

const char* name(BaseReference r) { return kReferences[std::size_t(r)].name; }
const char* words(BaseReference r) { return kReferences[std::size_t(r)].words; }

namespace {
constexpr const char* kAutomatic = "automatic";
}

std::vector<BaseMethod> baseMethods() {
    std::vector<BaseMethod> out{std::nullopt};
    out.insert(out.end(), allMethods().begin(), allMethods().end());
    return out;
}
BaseMethod methodOf(const SurfaceRecipe& r) { return r.automatic ? std::nullopt : BaseMethod(r.settings.method); }
void setMethod(SurfaceRecipe& r, BaseMethod method) {
    r.automatic = !method;
    if (method) r.settings.method = *method;
}
const char* methodName(BaseMethod m) { return m ? name(*m) : kAutomatic; }
const char* methodInWords(BaseMethod m) { return m ? words(*m) : "Automatic"; }
std::optional<BaseMethod> baseMethodNamed(std::string_view text) {
    if (text == kAutomatic) return BaseMethod();
    const auto method = methodNamed(text);
    return method ? std::optional<BaseMethod>(method) : std::nullopt;
}

std::optional<BaseReference> baseReferenceNamed(std::string_view wanted) {
    for (const auto& r : kReferences)
        if (r.name == wanted) return r.reference;
    return {};
}

std::string baseReferenceNames() {
    std::string all;
    for (const auto& r : kReferences) all += (all.empty() ? "" : ", ") + std::string(r.name);
    return all;
}

namespace {
struct RemedyNames {
    CrossingRemedy::Kind kind;
    const char *name, *words;
};
constexpr RemedyNames kRemedies[] = {{CrossingRemedy::Kind::None, "none", "the unit is absent"},
                                     {CrossingRemedy::Kind::Halfway, "halfway", "both meet halfway"},
                                     {CrossingRemedy::Kind::Thickness, "thickness", "a thickness is kept"},
                                     {CrossingRemedy::Kind::Below, "below", "held below another"},
                                     {CrossingRemedy::Kind::Above, "above", "held above another"}};
} // namespace

const char* name(CrossingRemedy::Kind k) { return kRemedies[std::size_t(k)].name; }
const char* words(CrossingRemedy::Kind k) { return kRemedies[std::size_t(k)].words; }

std::optional<CrossingRemedy::Kind> crossingRemedyNamed(std::string_view wanted) {
    for (const auto& r : kRemedies)
        if (r.name == wanted) return r.kind;
    return {};
}

const char* name(WaterRole r) { return r == WaterRole::Aquifer ? "aquifer" : r == WaterRole::Aquitard ? "aquitard" : ""; }

std::optional<WaterRole> waterRoleNamed(std::string_view wanted) {
    for (const auto r : {WaterRole::NotSet, WaterRole::Aquifer, WaterRole::Aquitard})
        if (name(r) == wanted) return r;
    return {};
}

std::optional<std::size_t> Sequence::index(std::string_view code) const {
    for (std::size_t i = 0; i < units.size(); ++i)
        if (units[i].code == code) return i;
    return {};
}

std::vector<UnitValueKind> Sequence::valueKinds() const {
    auto out = standardUnitValues();
    out.insert(out.end(), ownValues.begin(), ownValues.end());
    return out;
}

Sequence proposeSequence(const Holes& holes, const std::map<std::string, std::string>& codeNames, const std::string& heading) {
    Sequence sequence;
    const auto headings = unitHeadings(holes);
    if (headings.empty() && heading.empty()) return sequence;
    sequence.unitHeading = heading.empty() ? headings.front().heading : heading;
    std::map<std::string, std::map<std::string, int>> over; // how often the first lies over the second
    std::vector<std::string> codes;
    for (const auto& hole : holes) {
        std::vector<std::string> seen;
        for (const auto& i : hole.intervals) {
            const auto code = i.codes.find(sequence.unitHeading);
            if (code == i.codes.end() || !i.usable()) continue;
            if (!std::ranges::count(codes, code->second)) codes.push_back(code->second);
            if (std::ranges::count(seen, code->second)) continue;
            for (const auto& younger : seen) ++over[younger][code->second];
            seen.push_back(code->second);
        }
    }
    // each code's share of the codes it lies over, of all that it meets
    const auto wins = [&](const std::string& a) {
        double won = 0, met = 0;
        for (const auto& b : codes) {
            const int up = over[a][b], down = over[b][a];
            if (up + down > 0) met += 1, won += double(up) / (up + down);
        }
        // scaled by all codes so that one that meets few is not thrown to an end
        return met > 0 ? won / met : 0.5;
    };
    std::map<std::string, double> score;
    for (const auto& c : codes) score[c] = wins(c);
    std::ranges::stable_sort(codes, [&](const auto& a, const auto& b) { return score[a] > score[b]; });
    std::map<std::string, std::string> materials;
    std::map<std::string, int> intervals;
    for (const auto& logged : loggedCodes(holes, sequence.unitHeading))
        materials[logged.code] = logged.material, intervals[logged.code] = logged.intervals;
    for (const auto& code : codes) {
        const auto named = codeNames.find(code);
        const auto& material = materials[code];
        Unit unit;
        unit.recipe.automatic = true;
        unit.code = code;
        if (named != codeNames.end())
            unit.name = named->second;
        else if (material.empty() || lower(code).find(material) != std::string::npos)
            unit.name = code;
        else
            unit.name = fmt::format("{}{} ({})", upper(material.substr(0, 1)), material.substr(1), code);
        unit.colour = proposedColour(unit.name + " " + material, sequence.units);
        if (!saysGround(unit.name)) unit.hatch = material;
        sequence.units.push_back(std::move(unit));
    }
    // what looks like a spelling of a commoner code is no unit of its own: reading the holes finds it and offers to merge it
    std::erase_if(sequence.units, [&, all = sequence](const Unit& u) {
        return std::ranges::any_of(all.units, [&](const Unit& other) {
            const bool commoner = intervals[other.code] > intervals[u.code];
            return commoner && other.code != u.code && looksLike(u.code, Sequence{{other}, {}, {}, {}});
        });
    });
    return sequence;
}

} // namespace fox
