#pragma once
#include "dialogs/ground_words.h"
#include "dialogs/place_preview.h"

namespace fox::app {

/// What reading a file for the import gave.
struct ReadFile {
    ImportPreview understood;
    std::vector<HoleChange> changes; ///< against the project as it was then
    bool newerIssue = false;
    bool there = false; ///< the project has this very file, read in the same way
    Findings sense;     ///< of its holes
    GroundCount ground;
    PlacePreview places;
    std::string crs; ///< the project's when it was read
};
/// What the other files tell that come with one: where they lie, codes and names of their units, and the ids of holes in files
/// that are whole, which go in first.
struct FilesBeside {
    Box2 places;
    std::vector<std::string> units;
    std::map<std::string, std::string> holes; ///< with the name of the file
};
/// Beside the window. @throws as fox::readSource
ReadFile readForImport(const SourceFile&, const Project&, const FilesBeside&, const Progress&);

/// One file of the import sheet.
struct ImportEntry {
    enum class State {
        Asks,    ///< it needs an answer before it can go in
        Ready,   ///< it can go in
        Nothing, ///< there is nothing new in it
        Reading,
        Waiting, ///< to be read
        Failed,  ///< it can't be read, or was stopped
    };
    int id = 0;
    SourceFile file; ///< with its settings; with its bytes once it has been read
    ImportChoices choices;
    State state = State::Waiting;
    double fraction = 0; ///< of the reading
    QString why;         ///< it failed
    std::shared_ptr<const ReadFile> read;

    QString name() const { return QString::fromStdString(file.name); }
    /// Its state and choices after a reading.
    void take(ReadFile);
    /// Whether it knows its holes, as AGS does: those go in first, and tables and logs add to them.
    bool isWhole() const {
        if (!read || read->understood.holes.empty()) return false;
        return !read->understood.partial || read->understood.file.format.starts_with("AGS");
    }
};

/// Holes that are not in the project and are not left in the file.
std::ptrdiff_t newHoles(const ReadFile&, const ImportChoices&);
/// Whether anything of it would change the project.
bool bringsAnything(const ReadFile&, const ImportChoices&);
/// Of a table or log: whether all new holes in it are without a place.
bool lacksPlaces(const ReadFile&);
/// Columns of tables of holes that mean nothing to the program, by their names.
QStringList unusedColumns(const ImportPreview&);
/// What the sheet says of it: "AGS 4.1, project QB2. 5 holes: 5 new."
QString factsOf(const ReadFile&);
/// "5 holes", "19 lines": what would go in.
QString contentOf(const ReadFile&, const ImportChoices&);
/// What the button says where it is the only file: "Update 1 hole".
QString actionOf(const ReadFile&, const ImportChoices&);
/// A short line for the list.
QString stateOf(const ImportEntry&);
/// "3 new, 1 changed"
QStringList inWords(const std::vector<HoleChange>&);

} // namespace fox::app
