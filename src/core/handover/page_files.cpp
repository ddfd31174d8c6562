#include "handover/page_files.h"

// The bytes of a file between two symbols, put there by the assembler. CMake says where the files are.
#define FOX_FILE(symbol, path)                                                                                                   \
    asm(".section .rodata\n.global fox_" #symbol "_begin\n.global fox_" #symbol "_end\nfox_" #symbol "_begin:\n.incbin \"" path  \
        "\"\nfox_" #symbol "_end:\n.byte 0\n.text\n");                                                                           \
    extern "C" const char fox_##symbol##_begin[], fox_##symbol##_end[]

FOX_FILE(html, FOX_PAGE "/page.html");
FOX_FILE(css, FOX_PAGE "/page.css");
FOX_FILE(script, FOX_PAGE "/page.js");
FOX_FILE(three, FOX_THREE "/three.min.js");
FOX_FILE(controls, FOX_THREE "/examples/js/controls/OrbitControls.js");
FOX_FILE(loader, FOX_THREE "/examples/js/loaders/GLTFLoader.js");

namespace fox {

namespace {
std::string_view between(const char* begin, const char* end) { return {begin, end}; }
} // namespace

std::string_view pageHtml() { return between(fox_html_begin, fox_html_end); }
std::string_view pageCss() { return between(fox_css_begin, fox_css_end); }
std::string_view pageScript() { return between(fox_script_begin, fox_script_end); }
std::string_view threeJs() { return between(fox_three_begin, fox_three_end); }
std::string_view threeControls() { return between(fox_controls_begin, fox_controls_end); }
std::string_view threeLoader() { return between(fox_loader_begin, fox_loader_end); }

} // namespace fox
