#pragma once
#include "products/product_cache.h"
#include "project/project.h"

namespace fox {

struct BlocksAtHand;

/// What the products of one version of a project are made with: the version, what is known already, and whom to tell.
struct Making {
    const Project& project;
    ProductCache& cache;
    const Progress& progress;

    std::shared_ptr<const Model> held;          ///< see Products::of; null: nothing is held
    const BlocksAtHand* blocksAtHand = nullptr; ///< null: every block model is made

    Making(const Project& p, ProductCache& c, const Progress& to, std::shared_ptr<const Model> like = nullptr)
        : project(p), cache(c), progress(to), held(std::move(like)) {}

    /// What several products ask for is looked up in the cache once: its key may take time to make.
    template <typename Make>
    auto once(const std::string& name, Make&& make) const {
        using T = std::invoke_result_t<Make>;
        if (const auto known = m_known.find(name); known != m_known.end())
            return *std::static_pointer_cast<const T>(known->second);
        const auto made = std::make_shared<const T>(make());
        m_known.emplace(name, made);
        return *made;
    }

private:
    mutable std::map<std::string, std::shared_ptr<const void>> m_known;
};

template <typename T>
std::size_t bytesOf(const std::vector<T>& values) {
    return sizeof(values) + values.capacity() * sizeof(T);
}
inline std::size_t bytesOf(const Grid& grid) { return sizeof(grid) + bytesOf(grid.values); }
/// Where each finding is its words, more or less.
inline std::size_t bytesOf(const Findings& findings) { return sizeof(findings) + findings.size() * (sizeof(Finding) + 200); }

} // namespace fox
