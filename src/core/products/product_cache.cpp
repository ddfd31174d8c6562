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
    std::size_t older = 0;
    for (const auto& entry : mine.entries) older += entry->bytes;
    older -= bytes;
    while (mine.entries.size() > kOfAKind || (older > kOlderOfAKind && mine.entries.size() > 1)) {
        // its own kind's oldest; the list is in the order of use
        const auto oldest = std::find_if(m_entries.rbegin(), m_entries.rend(), [&](const Entry& e) { return e.kind == kind; });
        older -= oldest->bytes;
        forget(std::prev(oldest.base()));
    }
    while (m_bytes > m_budget && m_entries.size() > 1) forget(std::prev(m_entries.end()));
}

void ProductCache::forget(Entries::iterator entry) {
    std::erase(m_kinds.find(entry->kind)->second.entries, entry);
    m_bytes -= entry->bytes;
    m_entries.erase(entry);
}

} // namespace fox
