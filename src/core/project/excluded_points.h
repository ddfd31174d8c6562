#pragma once
#include "base/errors.h"
#include "base/shared_list.h"

#include <string>

namespace fox {

/// Points like this one, whether they are excluded or not, are excluded or used again. @throws Error with this sentence if there
/// is none
template <typename Point>
void setExcludedIn(SharedList<Point>& list, const Point& which, bool excluded, const std::string& gone) {
    auto points = *list;
    std::size_t found = 0;
    for (auto& p : points) {
        auto same = which;
        same.excluded = p.excluded;
        if (p == same) p.excluded = excluded, ++found;
    }
    if (found == 0) throw Error(gone);
    list = std::move(points);
}

} // namespace fox
