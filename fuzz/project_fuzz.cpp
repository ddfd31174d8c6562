// A project file with cells replaced, as if by strangers. The input is a list of edits of four bytes and more: the column
// (of all tables), the row, and the value, which may carry bytes of its own. Whatever stands in the file, it opens or
// is refused with a FileError; what opened can be edited and saved.
#include "base/errors.h"
#include "project/ground_edits.h"
#include "scratch_file.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <cstdint>
#include <cstring>
#include <sqlite3.h>

namespace {

fox::Project smallProject() {
    fox::Project p;
    p.name = "Small";
    p.site = fox::part(fox::Site{"EPSG:25831", fox::Frame{0, 0, 100, 100, 10}, {}});
    fox::Hole hole;
    hole.id = "H1";
    hole.easting = hole.northing = 50;
    hole.level = fox::Level{20};
    hole.intervals.push_back({fox::Depth{0}, fox::Depth{2}, "Clay", {{"GEOL_GEOL", "A"}}, 3});
    fox::Holes holes;
    holes.push_back(hole);
    p.holes = fox::part(holes);
    p.sequence = fox::part(fox::proposeSequence(*p.holes, {}));
    p = fox::addSection(p, {{0, 50}, {100, 60}}).project;
    return fox::addOutline(p, "pond", {{0, 0}, {50, 0}, {50, 50}}, fox::GroundSources::Outline::Use::Island).project;
}

struct Column {
    std::string table, name;
};

/// The project that is spoilt, made once.
struct Whole {
    std::string bytes;
    std::vector<Column> columns;

    Whole() {
        const ScratchFile file("whole.gpkg");
        fox::ProjectStore::create(file.path(), smallProject());
        std::ifstream in(file.path(), std::ios::binary);
        bytes.assign(std::istreambuf_iterator<char>(in), {});
        SQLite::Database db(file.path().string());
        SQLite::Statement found(db, "SELECT t.name, c.name FROM sqlite_master t JOIN pragma_table_info(t.name) c "
                                    "WHERE t.type = 'table' AND t.name NOT LIKE 'sqlite%' AND c.pk = 0");
        while (found.executeStep()) columns.push_back({found.getColumn(0).getString(), found.getColumn(1).getString()});
    }
};

/// Takes bytes off the front of the input; zeros when there are none left.
class Input {
public:
    Input(const std::uint8_t* data, std::size_t size) : m_left(reinterpret_cast<const char*>(data), size) {}
    bool empty() const { return m_left.empty(); }
    std::uint8_t byte() { return std::uint8_t(take(1).append(1, '\0')[0]); }
    std::string take(std::size_t n) {
        std::string taken(m_left.substr(0, n));
        m_left.remove_prefix(taken.size());
        return taken;
    }

private:
    std::string_view m_left;
};

void bindValue(SQLite::Statement& update, Input& input) {
    switch (const auto kind = input.byte() % 8; kind) {
    case 0: update.bind(1); return; // null
    case 1: update.bind(1, std::int64_t(std::int8_t(input.byte()))); return;
    case 2:
    case 3: {
        auto bytes = input.take(8);
        bytes.resize(8);
        double number = 0;
        std::int64_t whole = 0;
        std::memcpy(&number, bytes.data(), 8);
        std::memcpy(&whole, bytes.data(), 8);
        kind == 2 ? update.bind(1, number) : update.bind(1, whole);
        return;
    }
    case 4: update.bind(1, input.take(input.byte())); return;
    case 5: update.bind(1, "../../" + input.take(input.byte() % 8)); return;
    case 6: {
        const auto bytes = input.take(input.byte());
        update.bind(1, bytes.data(), int(bytes.size()));
        return;
    }
    default: update.bind(1, "[" + input.take(input.byte()) + "]"); return; // as JSON
    }
}

void spoil(const std::filesystem::path& path, const std::vector<Column>& columns, Input input) {
    SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
    db.exec("PRAGMA synchronous = OFF");
    for (int edits = 0; edits < 8 && !input.empty(); ++edits) {
        const auto at = input.byte() + 256U * (input.byte() % 2U);
        const auto& [table, column] = columns[at % columns.size()];
        const auto row = input.byte();
        SQLite::Statement update(db, "UPDATE \"" + table + "\" SET \"" + column + "\" = ?"
                                         + (row % 4 ? " WHERE rowid = " + std::to_string(row / 4) : ""));
        bindValue(update, input);
        try {
            update.exec();
        } catch (const SQLite::Exception&) { // the table's own rules refuse it
        }
    }
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const Whole whole;
    static const ScratchFile file("gpkg");
    file.write(whole.bytes);
    spoil(file.path(), whole.columns, Input(data, size));
    try {
        fox::Findings findings;
        const auto project = fox::ProjectStore::read(file.path(), findings);
        const auto edited = fox::addSection(project, {{1, 1}, {2, 9}}).project;
        fox::ProjectStore::create(file.path(), edited);
        fox::ProjectStore::read(file.path(), findings);
    } catch (const fox::FileError&) { // refused with a sentence
    }
    return 0;
}
