#pragma once
// The tool, called from outside.
#include "../core/fixtures.h"

#include <catch2/catch.hpp>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <set>
#include <sys/wait.h>

namespace fox::test {

struct Answer {
    int status = -1;
    std::string out, error;
    nlohmann::json parsed() const { return nlohmann::json::parse(out); }
    /// One line, with an end.
    bool oneErrorLine() const { return std::ranges::count(error, '\n') == 1 && error.size() > 10; }
};

/// Calls the tool with these words, as a shell would.
inline Answer call(const std::string& words) {
    static const TemporaryFolder folder;
    const auto errorFile = folder / "error.txt";
    Answer answer;
    FILE* pipe = popen((std::string(FOX_RUN) + " " + words + " 2>" + errorFile.string()).c_str(), "r");
    REQUIRE(pipe);
    char block[4096];
    for (std::size_t n; (n = fread(block, 1, sizeof block, pipe)) > 0;) answer.out.append(block, n);
    const int status = pclose(pipe);
    answer.status = WIFEXITED(status) ? WEXITSTATUS(status) : 255;
    answer.error = readBytes(errorFile);
    return answer;
}

/// The demo project, built once by the tool itself.
inline std::string demoProject() {
    static const TemporaryFolder folder;
    static const std::string path = [] {
        const auto file = (folder / "demo.gpkg").string();
        REQUIRE(call("build " FOX_DEMO "/quernbeck.build.json --out " + file).status == 0);
        return file;
    }();
    return path;
}

inline std::set<std::string> keys(const nlohmann::json& j) {
    std::set<std::string> out;
    for (const auto& [key, value] : j.items()) out.insert(key);
    return out;
}

} // namespace fox::test
