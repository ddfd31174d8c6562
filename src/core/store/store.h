#pragma once
#include "project/project.h"

namespace fox {

/// A project in a file: an OGC GeoPackage. Holes, ground points and lines, outlines and section lines are
/// feature layers, the rest attribute tables; docs/formats.md lists them. One transaction a save, so the file
/// is whole at any moment; only parts that changed since the last save are written.
class ProjectStore {
public:
    /// Writes a new file (beside the target, then renamed) and keeps it open. @throws FileError
    static ProjectStore create(const std::filesystem::path&, const Project&);
    /// Opens a file and makes a restore point beside it (NAME.restore.gpkg).
    /// @throws FileError if it is not there, not a project, damaged, or of a later version than this one
    static ProjectStore open(const std::filesystem::path&);
    /// Whether a file looks like a project, not like another GeoPackage; false if it can't be read.
    static bool isProject(const std::filesystem::path&);
    /// Reads only, no restore point: for the headless tool. @throws as open()
    static Project read(const std::filesystem::path&);

    ProjectStore(ProjectStore&&) noexcept;
    ProjectStore& operator=(ProjectStore&&) noexcept;
    ~ProjectStore();

    const Project& saved() const; ///< as the file has it
    /// Why nothing can be saved; empty if it can. Another window has the project, or the file may not be written to.
    const std::string& readOnlyBecause() const;
    /// What could not be read, or was changed outside since it was saved: a finding each, naming table and row.
    const Findings& findings() const;
    const std::filesystem::path& path() const;
    void save(const Project&); ///< @throws FileError, with the file as it was

private:
    struct Connection;
    explicit ProjectStore(std::unique_ptr<Connection>);
    std::unique_ptr<Connection> m_connection;
};

inline constexpr int kSchemaVersion = 5;

} // namespace fox
