#include "sheets/depth_texts.h"

#include "paper/render.h"

#include <unordered_map>
#include <utility>

namespace fox {

namespace {

/// Widths in ems of the shipped font, each measured once.
double widthOf(const std::string& words, double size) {
    thread_local std::unordered_map<std::string, double> known;
    constexpr std::size_t kMost = 200'000;
    if (known.size() > kMost) known.clear();
    const auto [at, isNew] = known.try_emplace(words, 0);
    if (isNew) {
        constexpr double kMeasured = 10; // millimetres: large, so that hinting says nothing
        paper::Text text;
        text.words = words;
        text.size = kMeasured;
        at->second = paper::measure(text).width / kMeasured;
    }
    return at->second * size;
}

/// The bytes of the first letters that fit; whole letters of UTF-8.
std::size_t fitting(const std::string& word, double width, double size) {
    std::size_t fits = 0;
    for (std::size_t end = 1; end <= word.size(); ++end) {
        if (end < word.size() && (static_cast<unsigned char>(word[end]) & 0xC0) == 0x80) continue;
        if (widthOf(word.substr(0, end), size) > width) break;
        fits = end;
    }
    return fits;
}

} // namespace

std::vector<std::string> linesOf(const std::string& words, double width, double size, std::size_t& tooNarrow) {
    constexpr double kSlack = 0.02; // of the width: words side by side are a little wider than their sum
    const double room = width * (1 - kSlack);
    std::vector<std::string> out;
    std::string line;
    double used = 0;
    const double blank = widthOf("n n", size) - 2 * widthOf("n", size);
    const auto end = [&] {
        if (!line.empty()) out.push_back(std::exchange(line, {}));
        used = 0;
    };
    std::size_t at = 0;
    while (at < words.size()) {
        const auto from = words.find_first_not_of(" \t\r", at);
        if (from == words.npos) break;
        if (words[from] == '\n') {
            end();
            at = from + 1;
            continue;
        }
        auto to = words.find_first_of(" \t\r\n", from);
        if (to == words.npos) to = words.size();
        auto word = words.substr(from, to - from);
        at = to;
        double wide = widthOf(word, size);
        if (!line.empty() && used + blank + wide > room) end();
        while (wide > room) { // a word that is wider than the column
            const auto part = fitting(word, room, size);
            if (part == 0) {
                ++tooNarrow;
                word.clear();
                break;
            }
            out.push_back(word.substr(0, part));
            word.erase(0, part);
            wide = widthOf(word, size);
        }
        if (word.empty()) continue;
        used += (line.empty() ? 0 : blank) + wide;
        line += (line.empty() ? "" : " ") + word;
    }
    end();
    return out;
}

DepthTexts::DepthTexts(std::vector<DepthText> texts, double width, double size) : m_texts(std::move(texts)), m_size(size) {
    std::ranges::stable_sort(m_texts, {}, &DepthText::top);
    for (const auto& t : m_texts) m_lines.push_back(linesOf(t.words, width, size, m_tooNarrow));
}

} // namespace fox
