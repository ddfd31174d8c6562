#pragma once
#include <cstddef>
#include <list>
#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

namespace fox {

/// One of the things that a product is made from: a shared part, known by its address, or a value, known by its content.
class KeyPart {
public:
    template <typename T>
    KeyPart(std::shared_ptr<const T> part) : m_held(std::move(part)) {}
    template <typename T>
    static KeyPart value(T content) {
        KeyPart out(std::make_shared<const T>(std::move(content)));
        out.m_equal = [](const void* a, const void* b) { return *static_cast<const T*>(a) == *static_cast<const T*>(b); };
        return out;
    }
    bool operator==(const KeyPart& other) const {
        if (m_held == other.m_held) return true;
        return m_equal && m_equal == other.m_equal && m_equal(m_held.get(), other.m_held.get());
    }

private:
    std::shared_ptr<const void> m_held; ///< so that an address can't come to mean something else
    bool (*m_equal)(const void*, const void*) = nullptr;
};
using ProductKey = std::vector<KeyPart>;

/// What was worked out, by kind and by what it was made from. Beyond its budget, and beyond kOfAKind versions or
/// kOlderOfAKind bytes of one kind, what was asked for longest ago goes first; whoever still shows it keeps it alive. Not for
/// several threads at once.
class ProductCache {
public:
    static constexpr std::size_t kOfAKind = 64; ///< versions: undo through the last edits costs nothing
    /// Bytes of one kind beside its newest version, so that grids of fine cells do not stay when the cells are coarse again.
    static constexpr std::size_t kOlderOfAKind = std::size_t(64) << 20;
    /// A quarter of the machine's memory, 1 GiB at least.
    static std::size_t usualBudget();

    explicit ProductCache(std::size_t budgetInBytes = usualBudget()) : m_budget(budgetInBytes) {}

    /// What was made of an equal key before, else what `make` gives now; `bytes` says what that takes up. What `make`
    /// throws is passed on, and nothing is remembered.
    template <typename Make, typename Bytes>
    auto get(std::string_view kind, ProductKey key, Make&& make, Bytes&& bytes) {
        using T = std::remove_cvref_t<std::invoke_result_t<Make>>;
        if (const auto known = find(kind, key)) return std::static_pointer_cast<const T>(known);
        auto value = std::make_shared<const T>(make());
        add(kind, std::move(key), value, bytes(*value));
        return value;
    }
    bool knows(std::string_view kind, const ProductKey& key) { return find(kind, key) != nullptr; }
    /// The same value if an equal one was met before, so that nothing that is made from it is made again.
    template <typename T>
    std::shared_ptr<const T> canonical(std::string_view kind, const T& value) {
        return get(
            kind, {KeyPart::value(value)}, [&] { return value; }, [](const T&) { return sizeof(T); });
    }

    std::size_t bytes() const { return m_bytes; }
    /// How many products of a kind were made so far, those that are gone too.
    int made(std::string_view kind) const;

private:
    struct Entry {
        std::string kind;
        ProductKey key;
        std::shared_ptr<const void> value;
        std::size_t bytes;
    };
    using Entries = std::list<Entry>;
    struct Kind {
        int made = 0;
        std::vector<Entries::iterator> entries;
    };
    std::shared_ptr<const void> find(std::string_view kind, const ProductKey&);
    void add(std::string_view kind, ProductKey, std::shared_ptr<const void>, std::size_t bytes);
    void forget(Entries::iterator);
    Kind& kindOf(std::string_view);

    std::size_t m_budget, m_bytes = 0;
    Entries m_entries; ///< what was asked for last comes first
    std::map<std::string, Kind, std::less<>> m_kinds;
};

} // namespace fox
