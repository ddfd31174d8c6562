#pragma once
#include "paper/render.h"

typedef struct _cairo cairo_t;
typedef struct _PangoLayout PangoLayout;

namespace fox::paper {

/// A text set in the shipped font by Pango. Private to the renderers.
class TextLayout {
public:
    explicit TextLayout(const Text&);
    TextLayout(const TextLayout&) = delete;
    TextLayout& operator=(const TextLayout&) = delete;
    ~TextLayout();

    TextSize size() const;
    /// From the text's place to the top left corner of its lines, millimetres before it is turned.
    Point2 offset() const;
    /// The context's unit is a millimetre, its origin the top left corner.
    void show(cairo_t*) const;
    void outline(cairo_t*) const; ///< as the current path

private:
    const Text& m_text;
    PangoLayout* m_layout;
};

} // namespace fox::paper
