#include "paper/text_layout.h"

#include "paper/fonts.h"

#include "base/files.h"

#include <filesystem>
#include <fontconfig/fontconfig.h>
#include <mutex>
#include <pango/pangocairo.h>

namespace fox::paper {

std::vector<std::filesystem::path> shippedFonts() {
    std::error_code code;
    const auto program = std::filesystem::read_symlink("/proc/self/exe", code);
    auto folder = program.parent_path().parent_path() / "share/fox-cellar/fonts";
    if (code || !std::filesystem::exists(folder, code)) folder = FOX_FONTS;
    return {folder / "Inter-Regular.otf", folder / "Inter-SemiBold.otf"};
}

namespace {

/// Text is set a hundred times as large and drawn smaller: whatever rounds to whole units rounds to hundredths of a millimetre.
constexpr double kUnits = 100;

void loadFonts() {
    static std::once_flag once;
    std::call_once(once, [] {
        const auto* config = FcConfigGetCurrent();
        for (const auto& file : shippedFonts())
            FcConfigAppFontAddFile(const_cast<FcConfig*>(config), reinterpret_cast<const FcChar8*>(file.c_str()));
    });
}

/// One context a thread: Pango's are not to be shared. No hinting, so that text is as wide on the screen as on paper.
PangoContext* context() {
    struct Owned {
        PangoContext* context;
        Owned() {
            loadFonts();
            context = pango_font_map_create_context(pango_cairo_font_map_get_default());
            auto* options = cairo_font_options_create();
            cairo_font_options_set_hint_style(options, CAIRO_HINT_STYLE_NONE);
            cairo_font_options_set_hint_metrics(options, CAIRO_HINT_METRICS_OFF);
            cairo_font_options_set_antialias(options, CAIRO_ANTIALIAS_GRAY);
            pango_cairo_context_set_font_options(context, options);
            cairo_font_options_destroy(options);
            pango_context_set_round_glyph_positions(context, FALSE);
        }
        ~Owned() { g_object_unref(context); }
    };
    static thread_local const Owned kOwned;
    return kOwned.context;
}

double millimetres(int pangoUnits) { return double(pangoUnits) / PANGO_SCALE / kUnits; }

} // namespace

TextLayout::TextLayout(const Text& text) : m_text(text), m_layout(pango_layout_new(context())) {
    auto* font = pango_font_description_new();
    pango_font_description_set_family(font, "Inter");
    pango_font_description_set_weight(font, text.strong ? PANGO_WEIGHT_SEMIBOLD : PANGO_WEIGHT_NORMAL);
    pango_font_description_set_absolute_size(font, text.size * kUnits * PANGO_SCALE);
    pango_layout_set_font_description(m_layout, font);
    pango_font_description_free(font);
    pango_layout_set_text(m_layout, text.words.c_str(), int(text.words.size()));
    if (text.width) {
        pango_layout_set_width(m_layout, int(std::max(0.0, *text.width) * kUnits * PANGO_SCALE));
        pango_layout_set_wrap(m_layout, PANGO_WRAP_WORD_CHAR);
        if (text.lines > 0) {
            pango_layout_set_height(m_layout, -text.lines);
            pango_layout_set_ellipsize(m_layout, PANGO_ELLIPSIZE_END);
        }
    }
    using Align = Text::Align;
    pango_layout_set_alignment(m_layout, text.align == Align::Left     ? PANGO_ALIGN_LEFT
                                         : text.align == Align::Centre ? PANGO_ALIGN_CENTER
                                                                       : PANGO_ALIGN_RIGHT);
}

TextLayout::~TextLayout() { g_object_unref(m_layout); }

TextSize TextLayout::size() const {
    PangoRectangle box;
    pango_layout_get_extents(m_layout, nullptr, &box);
    return {millimetres(box.width), millimetres(box.height), pango_layout_get_line_count(m_layout),
            pango_layout_is_ellipsized(m_layout) != FALSE};
}

Point2 TextLayout::offset() const {
    const auto all = size();
    const double wide = m_text.width.value_or(all.width);
    const double x = m_text.align == Text::Align::Left ? 0 : m_text.align == Text::Align::Centre ? -wide / 2 : -wide;
    const double y = m_text.anchor == Text::Anchor::Top      ? 0
                     : m_text.anchor == Text::Anchor::Middle ? -all.height / 2
                                                             : -millimetres(pango_layout_get_baseline(m_layout));
    return {x, y};
}

void TextLayout::show(cairo_t* c) const {
    cairo_save(c);
    cairo_scale(c, 1 / kUnits, 1 / kUnits);
    pango_cairo_show_layout(c, m_layout);
    cairo_restore(c);
}

void TextLayout::outline(cairo_t* c) const {
    cairo_save(c);
    cairo_scale(c, 1 / kUnits, 1 / kUnits);
    pango_cairo_layout_path(c, m_layout);
    cairo_restore(c);
}

} // namespace fox::paper
