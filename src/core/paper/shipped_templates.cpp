#include "paper/sheet_template.h"

namespace fox {

namespace {

using Element = SheetElement;
using Kind = Element::Kind;
using Column = LogColumn::Kind;
using Pages = Element::Pages;

/// Templates in a few words: what most sheets have is said once.
class Builder {
public:
    Builder(std::string name, SheetKind kind, double width, double height) {
        m_t.name = std::move(name), m_t.kind = kind, m_t.width = width, m_t.height = height;
    }
    Builder& add(Kind kind, double x, double y, double width, double height, Pages pages = Pages::All) {
        Element e;
        e.kind = kind, e.x = x, e.y = y, e.width = width, e.height = height, e.pages = pages;
        m_t.elements.push_back(std::move(e));
        return *this;
    }
    Builder& text(double x, double y, double width, double height, double size, TextRuns runs, bool strong = false,
                  Element::Align align = Element::Align::Left, Pages pages = Pages::All) {
        add(Kind::Text, x, y, width, height, pages);
        auto& e = m_t.elements.back();
        e.text = std::move(runs), e.size = size, e.strong = strong, e.align = align;
        return *this;
    }
    /// A small grey word over a value, as forms have it.
    Builder& field(double x, double y, double width, const char* words, const char* value, Pages pages = Pages::All) {
        text(x + 1, y + 0.8, width - 2, 2.6, 1.9, {{words, ""}}, false, Element::Align::Left, pages);
        return text(x + 1, y + 3.3, width - 2, 4.4, 2.8, {{"", value, "–"}}, false, Element::Align::Left, pages);
    }
    Builder& column(Column kind, double width, const char* title, const char* heading = "", double low = 0, double high = 0) {
        m_t.columns.push_back({kind, width, title, heading, low, high, false});
        return *this;
    }
    /// A frame around the page with a title block along its foot.
    Builder& titleBlock(const char* what) {
        const double w = m_t.width, h = m_t.height, m = 10, foot = h - m - 16;
        add(Kind::Box, m, m, w - 2 * m, h - 2 * m);
        add(Kind::Line, m, foot, w - 2 * m, 0);
        const double part = (w - 2 * m) / 4;
        for (int k = 1; k < 4; ++k) add(Kind::Line, m + k * part, foot, 0, 16);
        text(m + 2, foot + 2, part - 4, 8, 4, {{"", "project.name"}}, true);
        text(m + 2, foot + 10, part - 4, 4, 2.4, {{"", "project.client"}});
        text(m + part + 2, foot + 2, part - 4, 8, 4, {{what, ""}, {"", "item"}}, true);
        text(m + part + 2, foot + 10, part - 4, 4, 2.4, {{"", "unit.name"}});
        const auto kind = m_t.kind;
        const bool hasLevels = kind == SheetKind::Section || kind == SheetKind::Correlation;
        TextRuns scales;
        if (kind != SheetKind::Correlation) scales = {{"Scale ", ""}, {"", "scale", "–"}};
        if (hasLevels) scales.insert(scales.end(), {{scales.empty() ? "Levels " : ", levels ", ""}, {"", "vertical-scale", "–"}});
        text(m + 2 * part + 2, foot + 2, part - 4, 5, 3, std::move(scales));
        text(m + 2 * part + 2, foot + 8, part - 4, 4, 2.4, {{"", "project.crs"}});
        text(m + 3 * part + 2, foot + 2, part - 4, 5, 3, {{"", "date"}});
        return text(m + 3 * part + 2, foot + 8, part - 4, 4, 2.4, {{"Page ", ""}, {"", "page"}, {" of ", ""}, {"", "pages"}});
    }
    Builder& logHead(const char* title) {
        const double m = 12, w = m_t.width - 2 * m;
        add(Kind::Box, m, 12, w, 31, Pages::First);
        text(m + 2, 13.5, w / 2, 7, 5, {{title, ""}, {"", "hole.name"}}, true, Element::Align::Left, Pages::First);
        text(m + w / 2, 13.5, w / 2 - 2, 7, 3, {{"", "project.name"}}, false, Element::Align::Right, Pages::First);
        add(Kind::Line, m, 22, w, 0, Pages::First);
        const double part = w / 5;
        const char* const fields[2][5][2] = {{{"Type", "hole.type"},
                                              {"Easting, m", "hole.easting"},
                                              {"Northing, m", "hole.northing"},
                                              {"Ground level, m", "hole.level"},
                                              {"Final depth, m", "hole.depth"}},
                                             {{"Client", "project.client"},
                                              {"Location", "project.location"},
                                              {"Contractor", "project.contractor"},
                                              {"Coordinate system", "project.crs"},
                                              {"Scale", "scale"}}};
        for (int r = 0; r < 2; ++r)
            for (int k = 0; k < 5; ++k) field(m + k * part, 22.5 + r * 10, part, fields[r][k][0], fields[r][k][1], Pages::First);
        text(m, 12, w / 2, 5, 3.4, {{"", "hole.name"}, {" (continued)", ""}}, true, Element::Align::Left, Pages::Further);
        text(m + w / 2, 12, w / 2, 5, 2.6, {{"", "project.name"}}, false, Element::Align::Right, Pages::Further);
        text(m, m_t.height - 14, w / 2, 4, 2.2, {{"Printed ", ""}, {"", "date"}, {"   depths in metres", ""}});
        return text(m + w / 2, m_t.height - 14, w / 2, 4, 2.2, {{"Page ", ""}, {"", "page"}, {" of ", ""}, {"", "pages"}}, false,
                    Element::Align::Right);
    }
    Builder& logBody(double top = 46) {
        add(Kind::Body, 12, top, m_t.width - 24, m_t.height - top - 17, Pages::First);
        return add(Kind::Body, 12, 20, m_t.width - 24, m_t.height - 20 - 17, Pages::Further);
    }
    SheetTemplate take() { return std::move(m_t); }
    SheetTemplate m_t;
};

Builder boreholeLog(const char* name) {
    Builder b(name, SheetKind::Log, 210, 297);
    b.logHead("Borehole log  ");
    b.column(Column::Depth, 11, "Depth, m").column(Column::Level, 14, "Level, m").column(Column::Units, 10, "Legend");
    b.column(Column::Description, 76, "Description").column(Column::Samples, 18, "Samples").column(Column::Tests, 19, "SPT");
    b.column(Column::Core, 18, "TCR SCR RQD, %").column(Column::Water, 20, "Water");
    return b;
}

std::vector<SheetTemplate> allTemplates() {
    std::vector<SheetTemplate> out;
    out.push_back(boreholeLog("borehole log").logBody().take());
    {
        auto b = boreholeLog("borehole log with index plan");
        b.add(Kind::IndexPlan, 150, 46, 48, 36, Pages::First);
        out.push_back(b.logBody(85).take());
    }
    {
        Builder b("sounding log", SheetKind::Log, 210, 297);
        b.logHead("Sounding  ").logBody();
        b.column(Column::Depth, 12, "Depth, m").column(Column::Level, 15, "Level, m");
        b.column(Column::Curve, 55, "Cone resistance", "qc").column(Column::Curve, 34, "Sleeve friction", "fs");
        b.column(Column::Curve, 34, "Friction ratio", "Rf").column(Column::Curve, 34, "Pore pressure", "u2");
        out.push_back(b.take());
    }
    {
        Builder b("well log", SheetKind::Log, 210, 297);
        b.logHead("Well log  ").logBody();
        b.column(Column::Depth, 12, "Depth, m").column(Column::Level, 15, "Level, m").column(Column::Units, 12, "Legend");
        b.column(Column::Curve, 42, "Gamma", "GR").column(Column::Curve, 42, "Resistivity", "RES");
        b.column(Column::Installation, 14, "Installation").column(Column::Description, 49, "Description");
        out.push_back(b.take());
    }
    const auto a3 = [](const char* name, SheetKind kind) { return Builder(name, kind, 420, 297); };
    out.push_back(a3("section", SheetKind::Section)
                      .titleBlock("Section ")
                      .add(Kind::Body, 15, 20, 390, 205)
                      .add(Kind::Legend, 15, 230, 390, 36)
                      .take());
    {
        auto b = a3("sections at 1:1000", SheetKind::Section);
        b.titleBlock("Section ").add(Kind::Body, 15, 20, 390, 205).add(Kind::Legend, 15, 230, 390, 36);
        b.m_t.scale = 1000, b.m_t.verticalScale = 200;
        out.push_back(b.take());
    }
    out.push_back(a3("plan", SheetKind::Plan)
                      .titleBlock("Plan")
                      .add(Kind::Body, 15, 15, 390, 247)
                      .add(Kind::ScaleBar, 22, 246, 90, 10)
                      .add(Kind::NorthArrow, 385, 20, 14, 18)
                      .take());
    {
        auto b = a3("geological map", SheetKind::Map);
        b.titleBlock("Geological map").add(Kind::Body, 15, 15, 315, 247).add(Kind::Legend, 336, 40, 68, 200);
        b.text(336, 30, 68, 8, 4, {{"Units at the ground", ""}}, true);
        b.add(Kind::ScaleBar, 336, 246, 68, 10).add(Kind::NorthArrow, 310, 20, 14, 18);
        out.push_back(b.take());
    }
    out.push_back(a3("contour map", SheetKind::Contours)
                      .titleBlock("Base of ")
                      .add(Kind::Body, 15, 15, 390, 247)
                      .add(Kind::ScaleBar, 22, 246, 90, 10)
                      .add(Kind::NorthArrow, 385, 20, 14, 18)
                      .take());
    out.push_back(a3("correlation", SheetKind::Correlation)
                      .titleBlock("Correlation along ")
                      .add(Kind::Body, 15, 15, 390, 210)
                      .add(Kind::Legend, 15, 230, 390, 36)
                      .take());
    const auto a4 = [](const char* name, SheetKind kind, const char* title) {
        Builder b(name, kind, 210, 297);
        b.text(15, 15, 180, 9, 6, {{title, ""}}, true).text(15, 26, 180, 5, 3, {{"", "project.name"}});
        b.text(15, 283, 90, 4, 2.2, {{"", "date"}})
            .text(105, 283, 90, 4, 2.2, {{"Page ", ""}, {"", "page"}, {" of ", ""}, {"", "pages"}}, false, Element::Align::Right);
        return b;
    };
    out.push_back(a4("unit summary", SheetKind::Summary, "Units").add(Kind::Body, 15, 36, 180, 240).take());
    out.push_back(a4("key to units", SheetKind::Key, "Key to units").add(Kind::Body, 15, 36, 180, 240).take());
    {
        Builder b("title page", SheetKind::Title, 210, 297);
        b.text(25, 60, 160, 30, 10, {{"", "project.name"}}, true).text(25, 92, 160, 8, 5, {{"", "project.client"}});
        b.text(25, 102, 160, 6, 4, {{"", "project.location"}})
            .text(25, 112, 160, 6, 3.4, {{"", "date"}, {"   ", ""}, {"", "project.crs"}});
        b.add(Kind::Line, 25, 122, 160, 0).add(Kind::Body, 25, 130, 160, 140);
        out.push_back(b.take());
    }
    out.push_back(a4("list of sheets", SheetKind::List, "Sheets").add(Kind::Body, 15, 36, 180, 240).take());
    return out;
}

} // namespace

std::vector<SheetElement> titleBlock(SheetKind kind, double width, double height, const std::string& what) {
    return Builder("", kind, width, height).titleBlock(what.c_str()).take().elements;
}

const std::vector<SheetTemplate>& shippedTemplates() {
    static const auto kAll = allTemplates();
    return kAll;
}

} // namespace fox
