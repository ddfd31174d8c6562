#include "ground/survey_guess.h"

#include "base/text.h"
#include "formats/crs.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>

// Each column is described by itself: how much of it is numbers, whether these count on, how far they range. Every ordered pair
// of columns of numbers is then a candidate for easting and northing, and a third for the level. A pair is judged by where its
// points would lie: within the project's data, where its system is meant for, or, if neither is known, by being large numbers
// that differ little from one another. A level is judged by how slowly it varies: between a point and the nearest of a few
// hundred others it differs less than between any two. Of what is left the usual orders decide.
namespace fox {

namespace {

constexpr std::size_t kLooked = 400; ///< rows

/// One column as its values tell.
struct Column {
    std::vector<std::optional<double>> numbers;
    std::size_t filled = 0, numeric = 0;
    bool whole = true;    ///< numbers without decimals
    bool counting = true; ///< each larger than the one before
    std::set<std::string> words;
    double low = kNoValue, high = kNoValue, middle = kNoValue;

    bool isNumbers() const { return numeric > 0 && double(numeric) >= 0.9 * double(filled); }
    bool isFull(std::size_t rows) const { return double(numeric) >= 0.8 * double(rows); }
    double range() const { return high - low; }
};

class Guesser {
public:
    Guesser(const std::vector<Table::Row>& rows, bool decimalComma, const ExpectedPlaces& expected)
        : m_expected(expected), m_area(expected.crs) {
        const auto step = rows.size() / kLooked + 1;
        for (std::size_t r = 0; r < rows.size(); r += step) m_rows.push_back(&rows[r]);
        std::size_t width = 0;
        for (const auto* row : m_rows) width = std::max(width, row->cells.size());
        for (std::size_t c = 0; c < width; ++c) m_columns.push_back(describe(c, decimalComma));
    }

    std::optional<SurveyGuess> guess() {
        std::optional<Candidate> best;
        for (std::size_t e = 0; e < m_columns.size(); ++e)
            for (std::size_t n = 0; n < m_columns.size(); ++n)
                if (e != n && couldBePlaces(e, n))
                    if (const auto c = judge(e, n); c && (!best || c->score > best->score)) best = c;
        if (!best) return {};
        return named(*best);
    }

private:
    using Neighbours = std::vector<std::size_t>;
    struct Candidate {
        std::size_t easting, northing, level;
        double score = 0;
        bool near = false, meant = false; ///< within the project's data; where the system is meant for
    };

    Column describe(std::size_t c, bool decimalComma) const {
        Column out;
        double before = -std::numeric_limits<double>::infinity();
        std::vector<double> all;
        for (const auto* row : m_rows) {
            std::string text(c < row->cells.size() ? trimmed(row->cells[c]) : std::string_view());
            out.filled += !text.empty();
            if (!text.empty()) out.words.insert(text);
            if (decimalComma) std::ranges::replace(text, ',', '.');
            const auto number = parseNumber(text);
            out.numbers.push_back(number);
            if (!number) continue;
            ++out.numeric;
            all.push_back(*number);
            out.whole &= *number == std::floor(*number) && text.find('.') == text.npos;
            out.counting &= *number > before;
            before = *number;
            out.low = std::fmin(out.low, *number), out.high = std::fmax(out.high, *number);
        }
        if (!all.empty()) {
            std::ranges::nth_element(all, all.begin() + std::ptrdiff_t(all.size() / 2));
            out.middle = all[all.size() / 2];
        }
        return out;
    }

    /// Numbers of points count on by themselves, are whole, and are not as large as coordinates.
    bool couldBePlaces(std::size_t e, std::size_t n) const {
        for (const auto c : {e, n}) {
            const auto& column = m_columns[c];
            if (!column.isNumbers() || !column.isFull(m_rows.size())) return false;
            constexpr double kLargestNumber = 100'000;
            if (column.whole && column.counting && m_rows.size() > 2 && c == 0 && column.middle < kLargestNumber) return false;
        }
        return true;
    }

    std::optional<Candidate> judge(std::size_t e, std::size_t n) {
        Candidate out{e, n, 0};
        const auto &east = m_columns[e], &north = m_columns[n];
        const Point2 middle{east.middle, north.middle};
        out.near = !m_expected.near.empty() && isNear(middle);
        out.meant = !m_expected.crs.empty() && m_area.holds(middle);
        if (!m_expected.near.empty() && !out.near && !out.meant) return {};
        if (m_expected.near.empty() && !m_expected.crs.empty() && !out.meant) return {};
        const auto level = levelFor(e, n);
        if (!level) return {};
        out.level = *level;
        out.score = 8 * out.near + 4 * out.meant;
        // two of large numbers that lie close together are coordinates, whatever else a table has
        const auto isLarge = [](const Column& c) {
            return std::abs(c.middle) > 10 * std::max(1.0, c.range()) && std::abs(c.middle) > 1000;
        };
        out.score += 0.5 * (isLarge(east) + isLarge(north)) + 2 * (isLarge(east) && isLarge(north));
        if (std::max(e, n) - std::min(e, n) == 1) out.score += 1;         // side by side
        if (out.level == std::max(e, n) + 1) out.score += 1;              // and the level behind them
        if (e < n) out.score += 0.1;                                      // for want of anything better
        out.score += std::min(east.range(), north.range()) > 0 ? 0.2 : 0; // not all on one line
        return out;
    }

    /// Within the box of the data, or as far from it as the box is wide, 500 m at least.
    bool isNear(Point2 p) const {
        const auto& b = m_expected.near;
        const double margin = std::max({500.0, b.width(), b.height()});
        return p.x > b.xmin - margin && p.x < b.xmax + margin && p.y > b.ymin - margin && p.y < b.ymax + margin;
    }

    std::optional<std::size_t> levelFor(std::size_t e, std::size_t n) {
        constexpr double kHighest = 9000; // metres
        std::optional<std::size_t> best;
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t c = 0; c < m_columns.size(); ++c) {
            const auto& column = m_columns[c];
            if (c == e || c == n || !column.isNumbers() || std::abs(column.middle) > kHighest) continue;
            if (double(column.numeric) < 0.5 * double(m_rows.size())) continue;
            double rough = roughness(e, n, c);
            if (column.whole) rough += 1;                    // numbers, years, classes
            if (column.whole && column.counting) rough += 4; // a point's number
            if (c != std::max(e, n) + 1) rough += 0.3;       // it usually stands behind them
            if (rough < least) least = rough, best = c;
        }
        return best;
    }

    /// For each row the one whose place is nearest; itself if none has a place.
    const Neighbours& neighboursBy(std::size_t e, std::size_t n) {
        const auto [at, isNew] = m_neighbours.try_emplace(std::minmax(e, n));
        if (!isNew) return at->second;
        const auto &x = m_columns[e].numbers, &y = m_columns[n].numbers;
        for (std::size_t i = 0; i < m_rows.size(); ++i) {
            std::size_t nearest = i;
            double closest = std::numeric_limits<double>::infinity();
            for (std::size_t k = 0; k < m_rows.size() && x[i] && y[i]; ++k) {
                if (k == i || !x[k] || !y[k]) continue;
                const double d = distance({*x[i], *y[i]}, {*x[k], *y[k]});
                if (d < closest) closest = d, nearest = k;
            }
            at->second.push_back(nearest);
        }
        return at->second;
    }

    /// How much a column differs between a point and its nearest, over how much between any two: near 0 for a surface, 1 for
    /// what does not depend on the place.
    double roughness(std::size_t e, std::size_t n, std::size_t c) {
        const auto& z = m_columns[c].numbers;
        const auto& nearest = neighboursBy(e, n);
        double near = 0, any = 0;
        int pairs = 0;
        for (std::size_t i = 0; i < m_rows.size(); ++i) {
            if (nearest[i] == i || !z[i] || !z[nearest[i]]) continue;
            near += std::abs(*z[i] - *z[nearest[i]]);
            const auto& other = z[(i + m_rows.size() / 2) % m_rows.size()];
            any += other ? std::abs(*z[i] - *other) : 0;
            ++pairs;
        }
        return pairs < 4 || any <= 0 ? 0.5 : std::min(1.0, near / any);
    }

    SurveyGuess named(const Candidate& c) const {
        SurveyGuess out;
        out.columns.assign(m_columns.size(), "");
        out.columns[c.easting] = "easting", out.columns[c.northing] = "northing", out.columns[c.level] = "level";
        std::optional<std::size_t> number, code;
        for (std::size_t i = 0; i < m_columns.size(); ++i) {
            const auto& column = m_columns[i];
            if (!out.columns[i].empty() || column.filled == 0) continue;
            const bool each = column.words.size() > column.filled * 9 / 10; // another in nearly every row
            if (!number && i < std::min(c.easting, c.northing) && (each || (column.isNumbers() && column.whole)))
                number = i;
            else if (!code && !column.isNumbers() && !(each && column.filled > 12))
                code = i;
        }
        if (number) out.columns[*number] = "point";
        if (code) out.columns[*code] = "code";
        out.order = c.near || c.meant ? orderOf(c) : SurveyGuess::Order::Asked;
        out.why = reason(c, out.order);
        return out;
    }

    /// Known only if the other way round would not do as well.
    SurveyGuess::Order orderOf(const Candidate& c) const {
        const Point2 turned{m_columns[c.northing].middle, m_columns[c.easting].middle};
        const bool near = !m_expected.near.empty() && isNear(turned);
        const bool meant = !m_expected.crs.empty() && m_area.holds(turned);
        const bool same = c.near ? near : meant;
        return same ? SurveyGuess::Order::Asked : SurveyGuess::Order::Known;
    }

    std::string reason(const Candidate& c, SurveyGuess::Order order) const {
        if (order == SurveyGuess::Order::Asked)
            return fmt::format("Columns {} and {} are coordinates, and column {} varies slowly as levels do. Which one is the "
                               "easting can't be told from the values: choose the order.",
                               std::min(c.easting, c.northing) + 1, std::max(c.easting, c.northing) + 1, c.level + 1);
        return fmt::format(
            "Guessed from the values: column {} lies {} eastings, column {} {} northings, column {} varies slowly.",
            c.easting + 1, c.near ? "within the project's" : "where the system has its", c.northing + 1,
            c.near ? "within its" : "where it has its", c.level + 1);
    }

    std::vector<const Table::Row*> m_rows;
    std::vector<Column> m_columns;
    const ExpectedPlaces& m_expected;
    AreaOfUse m_area;
    std::map<std::pair<std::size_t, std::size_t>, Neighbours> m_neighbours; ///< by columns of coordinates, the lower first
};

} // namespace

std::optional<SurveyGuess> guessSurvey(const std::vector<Table::Row>& rows, bool decimalComma, const ExpectedPlaces& expected) {
    if (rows.empty()) return {};
    return Guesser(rows, decimalComma, expected).guess();
}

std::vector<std::vector<std::string>> usualSurveyOrders(std::size_t columns) {
    static const std::vector<std::vector<std::string>> kOrders{{"point", "northing", "easting", "level", "code"},
                                                               {"point", "easting", "northing", "level", "code"},
                                                               {"easting", "northing", "level", "code"},
                                                               {"northing", "easting", "level", "code"}};
    std::vector<std::vector<std::string>> out;
    for (auto order : kOrders) {
        const std::size_t needed = order.front() == "point" ? 4 : 3; // the code may be missing
        if (columns < needed) continue;
        order.resize(std::min(columns, order.size()));
        order.resize(columns);
        out.push_back(std::move(order));
    }
    return out;
}

} // namespace fox
