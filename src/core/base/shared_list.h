#pragma once
#include <memory>
#include <vector>

namespace fox {

/// A list that many owners share, because it may be long; it never changes, another one takes its place. Compared by
/// address, then by content.
template <typename T>
class SharedList {
public:
    SharedList() = default;
    SharedList(std::vector<T> items) : m_items(std::make_shared<const std::vector<T>>(std::move(items))) {}
    const std::vector<T>& operator*() const { return *m_items; }
    auto begin() const { return m_items->begin(); }
    auto end() const { return m_items->end(); }
    std::size_t size() const { return m_items->size(); }
    bool empty() const { return m_items->empty(); }
    const T& operator[](std::size_t i) const { return (*m_items)[i]; }
    const T& front() const { return m_items->front(); }
    bool operator==(const SharedList& o) const { return m_items == o.m_items || *m_items == *o.m_items; }

private:
    std::shared_ptr<const std::vector<T>> m_items = std::make_shared<const std::vector<T>>();
};

} // namespace fox
