#pragma once
#include <string>

namespace fox {

/// Bytes as letters, RFC 4648. @throws Error for more than 2 GB
std::string base64(const std::string& bytes);
/// The bytes that such letters stand for; letters that are none end them.
std::string fromBase64(const std::string& letters);
/// Words as they stand in XML and HTML.
std::string xmlText(const std::string& words);

} // namespace fox
