#include "formats/web_text.h"

#include "base/errors.h"

#include <climits>
#include <cpl_conv.h>
#include <cpl_string.h>
#include <memory>

namespace fox {

namespace {
struct FreeText {
    void operator()(char* text) const { CPLFree(text); }
};
using OwnedText = std::unique_ptr<char, FreeText>;
} // namespace

std::string base64(const std::string& bytes) {
    if (bytes.size() > INT_MAX) throw Error("There is more than 2 GB to put into one text.");
    return OwnedText(CPLBase64Encode(int(bytes.size()), reinterpret_cast<const GByte*>(bytes.data()))).get();
}

std::string fromBase64(const std::string& letters) {
    std::string out = letters;
    out.resize(std::size_t(std::max(0, CPLBase64DecodeInPlace(reinterpret_cast<GByte*>(out.data())))));
    return out;
}

std::string xmlText(const std::string& words) {
    return OwnedText(CPLEscapeString(words.c_str(), int(words.size()), CPLES_XML)).get();
}

} // namespace fox
