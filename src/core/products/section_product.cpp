#include "products/section_product.h"

#include "products/log_products.h"
#include "products/model_product.h"

#include <numeric>

namespace fox {

std::shared_ptr<const Section> sectionProduct(const Making& making, const SectionLine& s) {
    const auto frame = frameOf(making.project);
    if (!frame) return nullptr;
    const auto model = modelProduct(making);
    const auto logs = interpretedLogs(making);
    const auto known = contacts(making);
    ProductKey key{model, logs, KeyPart::value(*frame), KeyPart::value(s)};
    for (const auto& ofUnit : known) key.push_back(ofUnit);
    const auto background = making.project.background;
    key.push_back(background);
    making.progress.report(0.55, "Section " + s.name);
    return making.cache.get(
        "section " + s.name, std::move(key),
        [&] {
            const double step = std::max(frame->cell / 2, lengthOf(s.line) / 2000);
            auto made = makeSection(*model, *logs, s.line, step, making.progress, s.reach);
            made.contacts = contactsAlong(s.line, known, s.reach);
            made.traces = tracesAlong(s.line, *background, s.reach);
            return made;
        },
        [](const Section& made) {
            return sizeof(made) + made.chainage.size() * (2 + 2 * made.bases.size()) * sizeof(double)
                   + made.holes.size() * sizeof(SectionHole) + bytesOf(made.contacts)
                   + std::accumulate(made.traces.begin(), made.traces.end(), std::size_t(0),
                                     [](std::size_t n, const SectionTrace& t) { return n + sizeof(t) + bytesOf(t.points); });
        });
}

} // namespace fox
