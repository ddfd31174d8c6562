#pragma once
#include <string_view>

namespace fox {

/// The files that a page of a model is made of, built into the program.
std::string_view pageHtml(), pageCss(), pageScript(), threeJs(), threeControls(), threeLoader();

} // namespace fox
