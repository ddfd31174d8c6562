#pragma once
#include "project/project.h"

namespace fox {

/// Corrections in the making: one a cell, with what stood in the file before all edits.
class CorrectionBook {
public:
    explicit CorrectionBook(const Project&);

    /// `heading` is that of AGS 4: a file of edition 3 gets HOLE_ for LOCA_, a table the column of that role. Holes without
    /// a file or line have nothing to correct. A value put back to what it was is no correction any more.
    void record(const Hole&, int line, std::string heading, ColumnRole role, std::string before, std::string after,
                const std::string& why);
    void recordNumber(const Hole&, int line, const char* heading, ColumnRole role, std::optional<double> before,
                      std::optional<double> after, const std::string& why);
    /// Place, level, final depth and kind, where they differ. Coordinates are written in the file's own system.
    void recordFacts(const Hole& before, const Hole& after, const std::string& why);

    /// The project with these corrections; the same part if there are no others.
    void into(Project&) &&;

private:
    const SourceFile* fileOf(const Hole&) const;
    double unitOf(const Hole&, ColumnRole) const;
    const Project& m_project;
    std::vector<Correction> m_corrections;
};

} // namespace fox
