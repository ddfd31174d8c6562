#include "sheets/document.h"

#include "base/point.h"
#include "paper/render.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

constexpr double kPageWidth = 210, kPageHeight = 297, kLeft = 18, kTop = 22, kBottom = 275;
constexpr double kBody = 3.1, kFine = 2.6, kGap = 3, kCell = 1.2;

/// How much white there is beneath the last line of one.
constexpr double kUnderTable = 5;

std::string printed(const DocumentTable::Cell& cell, int decimals) {
    if (const auto* words = std::get_if<std::string>(&cell)) return *words;
    if (const auto* number = std::get_if<double>(&cell)) return fmt::format("{:.{}f}", *number, decimals);
    return "–";
}

/// Fills pages from the top down.
class PageMaker {
public:
    explicit PageMaker(const Document& document) : m_document(document) {}

    DocumentPages make(std::size_t more) {
        titlePage();
        for (std::size_t c = 0; c < m_document.chapters.size(); ++c) {
            const auto& chapter = m_document.chapters[c];
            if (c == 0 || m_y + 40 > kBottom) newPage();
            m_out.begins.push_back(m_out.pages.size() - 1);
            heading(fmt::format("{}  {}", c + 1, chapter.title), 5);
            for (const auto& part : chapter.parts) {
                if (const auto* words = std::get_if<std::string>(&part)) paragraph(*words);
                if (const auto* table = std::get_if<DocumentTable>(&part)) this->table(*table);
                if (const auto* figure = std::get_if<DocumentFigure>(&part)) this->figure(*figure);
            }
            m_y += 6;
        }
        contents();
        for (std::size_t p = 0; p < m_out.pages.size(); ++p) {
            Text foot{
                fmt::format("Page {} of {}", p + 1, m_out.pages.size() + more), {kLeft + kDocumentWidth, 287}, kFine, kMuted};
            foot.align = Text::Align::Right;
            m_out.pages[p].add("foot", "", foot);
            m_out.pages[p].add(
                "foot", "",
                Text{m_document.title, {kLeft, 287}, kFine, kMuted, Text::Align::Left, Text::Anchor::Baseline, false, 0, 140});
        }
        return std::move(m_out);
    }

private:
    Drawing& page() { return m_out.pages.back(); }
    void newPage() {
        m_out.pages.push_back({kPageWidth, kPageHeight, {}});
        m_y = kTop;
    }
    /// Room of this height on this page, or on a new one.
    void need(double height) {
        if (m_y + height > kBottom && m_y > kTop) newPage();
    }
    static Text wrapped(const std::string& words, double x, double y, double width, double size, Colour colour,
                        bool strong = false) {
        Text out{words, {x, y}, size, colour, Text::Align::Left, Text::Anchor::Top, strong, 0, width, 0};
        return out;
    }
    void put(const std::string& layer, Text text) {
        const double height = measure(text).height;
        need(height);
        text.at.y = m_y;
        page().add(layer, "", std::move(text));
        m_y += height;
    }

    void titlePage() {
        newPage();
        m_y = 60;
        put("title", wrapped(m_document.title, kLeft, 0, kDocumentWidth, 9, kInk, true));
        m_y += 4;
        put("title", wrapped(m_document.subject, kLeft, 0, kDocumentWidth, 4.5, kMuted));
        m_y += 2;
        put("title", wrapped(m_document.date, kLeft, 0, kDocumentWidth, 4, kMuted));
        m_contents = m_y + 18;
    }
    void contents() {
        double y = m_contents;
        for (std::size_t c = 0; c < m_document.chapters.size(); ++c, y += 6.5) {
            auto& first = m_out.pages.front();
            first.add("contents", "", Text{fmt::format("{}  {}", c + 1, m_document.chapters[c].title), {kLeft, y}, 3.6, kInk});
            Text number{fmt::format("{}", m_out.begins[c] + 1), {kLeft + kDocumentWidth, y}, 3.6, kMuted};
            number.align = Text::Align::Right;
            first.add("contents", "", number);
            first.add("contents", "", Line{{{kLeft, y + 1.8}, {kLeft + kDocumentWidth, y + 1.8}}, {kRule, 0.2, {}}});
        }
    }
    void heading(const std::string& words, double size) {
        need(size + 20);
        put("heading", wrapped(words, kLeft, 0, kDocumentWidth, size, kInk, true));
        m_y += kGap;
    }
    void paragraph(const std::string& words) {
        put("words", wrapped(words, kLeft, 0, kDocumentWidth, kBody, kInk));
        m_y += kGap;
    }
    void figure(const DocumentFigure& f) {
        need(f.drawing.height + 10);
        for (auto item : f.drawing.items) {
            moveBy(item, {kLeft, m_y});
            page().items.push_back(std::move(item));
        }
        m_y += f.drawing.height + 2;
        put("caption", wrapped(f.caption, kLeft, 0, kDocumentWidth, kFine, kMuted));
        m_y += kGap;
    }
    // --- tables

    using Texts = std::vector<Text>;
    double heightOf(const Texts& row) const {
        double most = 0;
        for (const auto& t : row) most = std::max(most, measure(t).height);
        return most + 2 * kCell;
    }
    void place(const Texts& row, const char* layer) {
        for (auto t : row) {
            t.at.y = m_y + kCell;
            page().add(layer, "", std::move(t));
        }
        m_y += heightOf(row);
        page().add("rules", "", Line{{{kLeft, m_y}, {kLeft + kDocumentWidth, m_y}}, {kRule, 0.15, {}}});
    }
    void table(const DocumentTable& t) {
        double shares = 0, x = kLeft;
        for (const auto& c : t.columns) shares += c.share;
        std::vector<std::pair<double, double>> room; // where a column begins, and its width
        for (const auto& c : t.columns) {
            room.emplace_back(x, kDocumentWidth * c.share / shares - 2 * kCell);
            x += kDocumentWidth * c.share / shares;
        }
        Texts head;
        for (std::size_t c = 0; c < t.columns.size(); ++c) {
            const auto& column = t.columns[c];
            head.push_back(wrapped(column.unit.empty() ? column.words : fmt::format("{}, {}", column.words, column.unit),
                                   room[c].first, 0, room[c].second, kFine, kMuted));
            if (isNumeric(t, c)) toTheRight(head.back(), room[c]);
        }
        const auto begin = [&](const std::string& title) {
            put("table", wrapped(title, kLeft, 0, kDocumentWidth, kBody, kInk, true));
            m_y += 1;
            place(head, "table head");
        };
        std::vector<Texts> rows;
        for (const auto& cells : t.rows) {
            auto& row = rows.emplace_back();
            for (std::size_t c = 0; c < t.columns.size(); ++c) {
                row.push_back(wrapped(c < cells.size() ? printed(cells[c], t.columns[c].decimals) : "", room[c].first, 0,
                                      room[c].second, kFine, kInk));
                if (isNumeric(t, c)) toTheRight(row.back(), room[c]);
            }
        }
        need(12 + heightOf(head) + (rows.empty() ? 0 : heightOf(rows.front())));
        begin(t.title);
        for (const auto& row : rows) {
            if (m_y + heightOf(row) > kBottom) {
                newPage();
                begin(t.title + " (continued)");
            }
            place(row, "table");
        }
        m_y += kUnderTable;
    }
    static bool isNumeric(const DocumentTable& t, std::size_t column) {
        bool some = false;
        for (const auto& row : t.rows) {
            if (column < row.size() && std::holds_alternative<std::string>(row[column])) return false;
            some = some || (column < row.size() && std::holds_alternative<double>(row[column]));
        }
        return some;
    }
    static void toTheRight(Text& text, std::pair<double, double> room) {
        text.align = Text::Align::Right;
        text.at.x = room.first + room.second;
    }

    const Document& m_document;
    DocumentPages m_out;
    double m_y = kTop, m_contents = 0;
};

} // namespace

DocumentTable::Cell cellOf(double v) {
    if (std::isnan(v)) return std::monostate();
    return v;
}

DocumentPages layOut(const Document& document, std::size_t more) { return PageMaker(document).make(more); }

} // namespace fox
