#pragma once
#include <string>

namespace fox {

/// Bytes as letters, RFC 4648. @throws Error for more than 2 GB
std::string base64(const std::string& bytes);
/// Words as they stand in XML and HTML.
std::string xmlText(const std::string& words);

} // namespace fox
