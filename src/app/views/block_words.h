#pragma once
#include "project/project.h"

#include <QString>
#include <fmt/format.h>

namespace fox::app {

/// "1250 t", "not known"
QString tonnes(const std::optional<double>& mass);
QString wantedInWords(const ExcavationSpec&);

/// The name that an edit will give.
template <typename Spec>
std::string freeName(const std::vector<Spec>& all, const std::string& wanted) {
    auto name = wanted;
    for (int n = 2; std::ranges::count(all, name, &Spec::name) > 0; ++n) name = fmt::format("{} {}", wanted, n);
    return name;
}

} // namespace fox::app
