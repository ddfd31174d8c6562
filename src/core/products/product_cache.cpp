#include "products/product_cache.h"

#include <algorithm>
#include <unistd.h>

namespace fox {

std::size_t ProductCache::usualBudget() {
    constexpr std::size_t kLeast = std::size_t(1) << 30;
    const long pages = sysconf(_SC_PHYS_PAGES), size = sysconf(_SC_PAGESIZE);
    return pages > 0 && size > 0 ? std::max(kLeast, std::size_t(pages) * std::size_t(size) / 4) : kLeast;
}

int ProductCache::made(std::string_view kind) const {
    const auto known = m_kinds.find(kind);
    return known == m_kinds.end() ? 0 : known->second.made;
}

ProductCache::Kind& ProductCache::kindOf(std::string_view kind) {
    const auto known = m_kinds.find(kind);
    return known != m_kinds.end() ? known->second : m_kinds[std::string(kind)];
}

std::shared_ptr<const void> ProductCache::find(std::string_view kind, const ProductKey& key) {
    const auto known = m_kinds.find(kind);
    if (known == m_kinds.end()) return nullptr;
    const auto& entries = known->second.entries;
    // the newest version is the likeliest
    const auto at = std::find_if(entries.rbegin(), entries.rend(), [&](auto entry) { return entry->key == key; });
    if (at == entries.rend()) return nullptr;
    m_entries.splice(m_entries.begin(), m_entries, *at);
    return (*at)->value;
}

void ProductCache::add(std::string_view kind, ProductKey key, std::shared_ptr<const void> value, std::size_t bytes) {
    auto& mine = kindOf(kind);
    ++mine.made;
    m_entries.push_front({std::string(kind), std::move(key), std::move(value), bytes});
    mine.entries.push_back(m_entries.begin());
    m_bytes += bytes;
    const auto olderBytes = [&] {
        std::size_t all = 0;
        for (const auto& entry : mine.entries) all += entry->bytes;
        return all - bytes;
    };
    while (mine.entries.size() > 1 && (mine.entries.size() > kOfAKind || olderBytes() > kOlderOfAKind)) {
        // its own kind's oldest; the list is in the order of use
        const auto oldest = std::find_if(m_entries.rbegin(), m_entries.rend(), [&](const Entry& e) { return e.kind == kind; });
        forget(std::prev(oldest.base()));
    }
    while (m_bytes > m_budget && m_entries.size() > 1) forget(std::prev(m_entries.end()));
}

/// With it goes what was made from it: keys keep their parts alive, and nobody will ask by a part that is gone.
void ProductCache::forget(Entries::iterator entry) {
    const KeyPart value(entry->value);
    std::erase(m_kinds.find(entry->kind)->second.entries, entry);
    m_bytes -= entry->bytes;
    m_entries.erase(entry);
    const auto madeFromIt = [&](const Entry& e) { return std::ranges::count(e.key, value) > 0; };
    for (auto next = std::ranges::find_if(m_entries, madeFromIt); next != m_entries.end();
         next = std::ranges::find_if(m_entries, madeFromIt))
        forget(next);
}

} // namespace fox
