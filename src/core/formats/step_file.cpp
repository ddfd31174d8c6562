#include "formats/step_file.h"

#include "base/encoding.h"

#include <fmt/format.h>

namespace fox {

StepValue StepValue::reference(std::size_t instance) { return {fmt::format("#{}", instance)}; }
StepValue StepValue::enumeration(std::string_view word) { return {fmt::format(".{}.", word)}; }
StepValue StepValue::integer(std::int64_t v) { return {fmt::format("{}", v)}; }
StepValue StepValue::boolean(bool v) { return {v ? ".T." : ".F."}; }
StepValue StepValue::typed(std::string_view type, const StepValue& v) { return {fmt::format("{}({})", type, v.text)}; }

StepValue StepValue::string(std::string_view utf8) {
    const auto wide = encodeText(utf8, TextEncoding::Utf16BigEndian);
    const auto unit = [&](std::size_t i) {
        return std::uint32_t(static_cast<unsigned char>(wide[i]) << 8 | static_cast<unsigned char>(wide[i + 1]));
    };
    std::string out = "'";
    for (std::size_t i = 0; i + 1 < wide.size(); i += 2) {
        const auto c = unit(i);
        if (c == '\'')
            out += "''";
        else if (c == '\\')
            out += "\\\\";
        else if (c >= 0x20 && c < 0x7F)
            out += char(c);
        else if (c >= 0xD800 && c < 0xDC00 && i + 3 < wide.size()) {
            out += fmt::format("\\X4\\{:08X}\\X0\\", 0x10000 + ((c - 0xD800) << 10) + (unit(i + 2) - 0xDC00));
            i += 2;
        } else
            out += fmt::format("\\X2\\{:04X}\\X0\\", c);
    }
    return {out + "'"};
}

StepValue StepValue::real(double v) {
    auto out = fmt::format("{}", v);
    const auto exponent = out.find('e');
    if (out.find('.') == out.npos) out.insert(exponent == out.npos ? out.size() : exponent, ".");
    if (exponent != std::string::npos) out[out.find('e')] = 'E';
    return {out};
}

StepValue StepValue::list(const std::vector<StepValue>& values) {
    std::string out = "(";
    for (const auto& v : values) out += (out.size() > 1 ? "," : "") + v.text;
    return {out + ")"};
}

StepValue StepValue::references(const std::vector<std::size_t>& instances) {
    std::vector<StepValue> out;
    for (const auto i : instances) out.push_back(reference(i));
    return list(out);
}

std::size_t StepFile::add(std::string_view type, const std::vector<StepValue>& attributes) {
    m_data += fmt::format("#{}={}{};\n", ++m_count, type, StepValue::list(attributes).text);
    return m_count;
}

std::string StepFile::text(const Header& h) const {
    using V = StepValue;
    const auto strings = [](std::string_view s) { return V::list({V::string(s)}).text; };
    return "ISO-10303-21;\nHEADER;\n" + fmt::format("FILE_DESCRIPTION({},'2;1');\n", strings(h.description))
           + fmt::format("FILE_NAME({},{},{},{},{},{},'');\n", V::string(h.name).text, V::string(h.time).text, strings(""),
                         strings(""), V::string(h.program).text, V::string(h.program).text)
           + fmt::format("FILE_SCHEMA({});\nENDSEC;\nDATA;\n", strings(h.schema)) + m_data + "ENDSEC;\nEND-ISO-10303-21;\n";
}

} // namespace fox
