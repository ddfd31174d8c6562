#pragma once
#include "project/edits.h"

namespace fox {

class RowFaults;

/// A project in a file: an OGC GeoPackage. Holes, ground points and lines, outlines and section lines are
/// feature layers, the rest attribute tables; docs/formats.md lists them. One transaction a save, so the file
/// is whole at any moment; only parts that changed since the last save are written.
class ProjectStore {
public:
    /// Writes a new file (beside the target, then renamed). @throws FileError, also if somebody has the target open
    static void create(const std::filesystem::path&, const Project&, HistoryState = 0);
    /// The same, with a restore point of the project that had this name before, if one had.
    static void replace(const std::filesystem::path&, const Project&, HistoryState = 0);
    /// Opens a file for this window alone and makes a restore point beside it (restore_points.h). Whatever other programs
    /// have done to the file, what can be read is, and the rest is in findings(). If somebody else has it open, or it may
    /// not be written to, it can be read and not saved: readOnlyBecause().
    /// @throws FileError if it is not there, not a project, damaged, or of a later version than this one
    static ProjectStore open(const std::filesystem::path&);
    /// Whether a file looks like a project, not like another GeoPackage; false if it can't be read.
    static bool isProject(const std::filesystem::path&);
    /// Reads only, no restore point: for the headless tool. @throws as open()
    static Project read(const std::filesystem::path&);
    static Project read(const std::filesystem::path&, Findings&);
    /// The project as it was in one of the states of its history(); the file stays as it is. @throws FileError if its steps do
    /// not lead there, also because another program has changed what they changed; as open()
    static Project version(const std::filesystem::path&, HistoryState);

    ProjectStore(ProjectStore&&) noexcept;
    ProjectStore& operator=(ProjectStore&&) noexcept;
    ~ProjectStore();

    const Project& saved() const; ///< as the file has it
    /// Why nothing can be saved; empty if it can. Another window has the project, or the file may not be written to.
    const std::string& readOnlyBecause() const;
    /// What could not be read, or was changed outside since it was saved: a finding each, naming table and row.
    const Findings& findings() const;
    const std::filesystem::path& path() const;
    /// Whether saving this version writes so many survey points that it takes seconds; it is no step that the file keeps.
    bool writesMuch(const Project&) const;
    const KeptHistory& history() const; ///< as it was when the file was opened; empty if it can't be saved
    /// Writes the parts and holes that changed, in one transaction, and how that can be undone; without a step the history of the
    /// file starts anew. @throws FileError, with the file as it was: also if the file was removed or replaced meanwhile, and,
    /// once, if another program has written to it
    void save(const Project&, const std::optional<KeptStep>& = {});

private:
    struct Connection;
    explicit ProjectStore(std::unique_ptr<Connection>);
    static void bringToThisVersion(Connection&, RowFaults&);
    std::unique_ptr<Connection> m_connection;
};

} // namespace fox
