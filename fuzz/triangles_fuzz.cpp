// Any bytes as LandXML, OBJ and PLY.
#include "base/errors.h"
#include "formats/triangle_mesh.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string bytes(reinterpret_cast<const char*>(data), size);
    for (const char* name : {"fuzz.xml", "fuzz.obj", "fuzz.ply"}) {
        try {
            const auto mesh = fox::readTriangleMesh(bytes, name);
            for (const auto& t : mesh.triangles)
                for (const int v : t)
                    if (v < 0 || std::size_t(v) >= mesh.vertices.size()) std::abort(); // every corner is there
            fox::edgesOf(mesh);
        } catch (const fox::FileError&) {
        }
    }
    return 0;
}
