// Any bytes as a zip archive: listed, and its first files unpacked.
#include "base/errors.h"
#include "formats/archive.h"
#include "scratch_file.h"

#include <cstdint>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const ScratchFile file("zip");
    file.write({reinterpret_cast<const char*>(data), size});
    try {
        const auto files = fox::filesInArchive(file.path());
        for (std::size_t i = 0; i < std::min<std::size_t>(files.size(), 3); ++i) {
            try {
                const fox::LocalFile local(file.path() / files[i].name);
                // it lies in a folder of its own, and nowhere else
                if (local.path().parent_path().parent_path() != std::filesystem::temp_directory_path()) std::abort();
            } catch (const fox::FileError&) { // refused with a sentence
            }
        }
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
