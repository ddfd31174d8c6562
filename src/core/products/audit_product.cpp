#include "products/audit_product.h"

#include "products/log_products.h"
#include "products/model_product.h"

namespace fox {

std::shared_ptr<const Audit> auditProduct(const Making& making) {
    const auto model = modelProduct(making);
    const auto logs = interpretedLogs(making);
    making.progress.report(0.92, "Comparing the model with the holes");
    return making.cache.get(
        "audit", {model, logs},
        [&] {
            std::vector<std::vector<Contact>> all;
            for (const auto& c : contacts(making)) all.push_back(*c);
            return auditModel(*model, *logs, all, making.progress);
        },
        [](const Audit& a) {
            std::size_t bytes = sizeof(a);
            for (const auto& h : a.holes) bytes += sizeof(h) + bytesOf(h.contacts);
            return bytes;
        });
}

} // namespace fox
