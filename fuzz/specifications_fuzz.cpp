// Any bytes as a specification of layers, of a mesh, of blocks or of an excavation, or as a sheet of the report; what is read
// comes back from its own JSON.
#include "base/errors.h"
#include "blocks/block_spec.h"
#include "blocks/excavation_spec.h"
#include "layers/mesh_spec.h"
#include "paper/sheet_template.h"

#include <cstdint>
#include <cstdlib>

namespace {

template <typename Spec>
void readTwice(std::string_view text, Spec (*read)(std::string_view, const std::filesystem::path&)) {
    try {
        const auto spec = read(text, {});
        if (!(read(toJson(spec), {}) == spec)) std::abort();
    } catch (const fox::Error&) { // refused with a sentence
    }
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    readTwice(text, fox::layerSpecOf);
    readTwice(text, fox::meshSpecOf);
    readTwice(text, fox::blockSpecOf);
    try { // what a kind of element does not have is left out of its JSON
        const auto sheet = fox::reportEntryOf(toJson(fox::reportEntryOf(text)));
        if (!(fox::reportEntryOf(toJson(sheet)) == sheet)) std::abort();
    } catch (const fox::Error&) {
    }
    try {
        fox::excavationSpecOf(text, {});
    } catch (const fox::Error&) {
    }
    return 0;
}
