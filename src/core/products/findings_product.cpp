#include "products/findings_product.h"

#include "products/audit_product.h"
#include "products/grid_products.h"
#include "products/ground_statistics.h"
#include "products/log_products.h"
#include "products/model_product.h"
#include "products/named_surface_product.h"
#include "products/terrain_product.h"

namespace fox {

namespace {

Findings outlierFindings(const std::vector<Outlier>& outliers, const Tin& tin) {
    Findings out;
    for (const auto& o : outliers) {
        const auto& p = tin.vertices()[std::size_t(o.vertex)];
        Finding f{Severity::Warning,
                  "FC-POINT-OFF",
                  "",
                  0,
                  "",
                  "",
                  "",
                  fmt::format("The ground point at E {:.2f} N {:.2f}, {:.2f} m, is {:.2f} m {} what its neighbours say.", p.x,
                              p.y, p.z, std::abs(o.off), o.off > 0 ? "above" : "below")};
        f.remedy = Remedy{"Leave the point out", ExcludeGroundPoint{p.plan()}};
        f.place = p.plan();
        out.push_back(std::move(f));
    }
    return out;
}

/// What may have moved a unit's base away from its contacts, in words.
std::string moverOf(const Unit& unit) {
    std::vector<std::string> out;
    if (unit.leastThickness > 0) out.push_back(fmt::format("its minimum thickness of {:g} m", unit.leastThickness));
    if (!unit.outlines.empty()) out.push_back(unit.outlines.size() == 1 ? "its outline" : "its outlines");
    if (unit.loggingAccuracy > 0) out.push_back(fmt::format("its logging accuracy of {:g} m", unit.loggingAccuracy));
    if (unit.crossing.kind != CrossingRemedy::Kind::None) out.push_back(fmt::format("\"{}\"", words(unit.crossing.kind)));
    return out.empty() ? "a base over it or a limit there" : fmt::format("{}", fmt::join(out, " or "));
}

/// Contacts that the model does not have within kAuditSlack; of those that are known with an accuracy, within three times that.
Findings missedContacts(const Audit& audit, const Project& project) {
    Findings out;
    const auto& sequence = *project.sequence;
    const auto say = [&](const AuditContact& c, const std::string& hole, const std::string& file, int line, double accuracy) {
        if (!(std::abs(c.difference()) > std::max(kAuditSlack, 3 * accuracy))) return;
        const auto& unit = sequence.units[c.unit];
        Finding f{Severity::Warning,
                  "FC-MISSED",
                  file,
                  line,
                  "",
                  "",
                  hole,
                  fmt::format("The model has the base of {} {:.2f} m {} its contact: because of {}.", unit.code,
                              std::abs(c.difference()), c.difference() > 0 ? "above" : "below", moverOf(unit))};
        f.unit = unit.code;
        out.push_back(std::move(f));
    };
    for (const auto& h : audit.holes)
        for (const auto& c : h.contacts) {
            const auto* hole = findHole(*project.holes, h.name);
            say(c, h.name, hole ? hole->file : "", hole ? hole->line : 0, sequence.units[c.unit].loggingAccuracy);
        }
    for (const auto& p : audit.points) {
        const auto source = std::ranges::find(*project.contactPoints, p.file, &ContactSource::file);
        say(p.contact, "", p.file, p.line, source == project.contactPoints->end() ? 0 : source->accuracy);
    }
    return out;
}

/// A hole with a place but no level can take the terrain's.
void offerTerrainLevel(Finding& f, const Holes& holes, const Terrain& terrain) {
    const auto* hole = findHole(holes, f.hole);
    const auto place = hole ? hole->place() : std::nullopt;
    if (const auto level = place ? terrain.levelAt(*place) : std::nullopt)
        f.remedy = Remedy{"Take the terrain's level", SetGroundLevel{f.hole, toCentimetre(*level)}};
}

} // namespace

std::shared_ptr<const Findings> findingsProduct(const Making& making, FindingsOf what) {
    const auto& p = making.project;
    const auto ofHoles = holeFindings(making);
    const auto logs = interpretedLogs(making);
    const auto points = contactPoints(making);
    const auto terrain = terrainProduct(making);
    const auto model = modelProduct(making);
    std::shared_ptr<const std::vector<Outlier>> outliers;
    std::shared_ptr<const ModelGrid> grid;
    std::shared_ptr<const Findings> extent;
    std::shared_ptr<const Audit> audit;
    std::vector<std::shared_ptr<const FittedNamedSurface>> named;
    if (what == FindingsOf::Everything) {
        outliers = groundOutliers(making);
        extent = groundBeyondExtent(making);
        if (const auto grids = gridProducts(making)) grid = grids->model;
        audit = auditProduct(making);
        for (const auto& s : *p.namedSurfaces) named.push_back(fittedNamedSurface(making, s));
    }
    const auto gather = [&] {
        Findings all = *ofHoles;
        for (auto& f : all)
            if (f.rule == "FC-LEVEL") offerTerrainLevel(f, *p.holes, *terrain->terrain);
        const auto append = [&](const Findings& more) { all.insert(all.end(), more.begin(), more.end()); };
        append(terrain->findings);
        if (outliers) append(outlierFindings(*outliers, terrain->terrain->tin));
        if (extent) append(*extent);
        append(logs->findings);
        append(points->findings);
        for (const auto& f : *p.files) append(f.findings);
        append(terrain->terrain->findings);
        for (std::size_t u = 0; u < model->bases.size(); ++u)
            for (auto f : model->bases[u]->fit.findings) {
                if (f.rule == "FC-NO-BASE" && model->bases[u]->bounds > 0)
                    f.remedy = Remedy{"As thick as its neighbours", ThickAsNeighbours{p.sequence->units[u].code}};
                all.push_back(std::move(f));
            }
        if (grid) append(grid->findings);
        if (audit) append(missedContacts(*audit, p));
        for (const auto& s : named) append(s->findings);
        all = listed(std::move(all));
        std::ranges::stable_sort(all, std::greater<>(), &Finding::severity);
        return all;
    };
    ProductKey key{p.files, p.holes, ofHoles, logs, points, terrain, model, grid, outliers, extent, audit, p.contactPoints};
    key.insert(key.end(), named.begin(), named.end());
    return making.cache.get("findings", std::move(key), gather, [](const Findings& f) { return bytesOf(f); });
}

} // namespace fox
