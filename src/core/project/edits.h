#pragma once
#include "project/project.h"

namespace fox {

/// What an edit makes: the new version, and what History calls the step.
struct Edited {
    Project project;
    std::string label; ///< "Merge M.G. into MG"
};

/// What reading a file gave, before anything enters the project.
struct ImportedAgs {
    SourceFile file;
    AgsHoles content;
    std::vector<std::string> groups; ///< "GEOL, 312 rows"
};
/// @throws FileError as readAgs does
ImportedAgs understandAgs(std::string bytes, const std::string& name, const Progress& = {});

struct ImportedSurvey {
    SourceFile file;
    Survey survey;
    int columns = 0;
};
/// `columns` names them in order; empty: the first row does. @throws FileError
ImportedSurvey understandSurvey(std::string bytes, const std::string& name, std::vector<std::string> columns = {});

/// Ids of the imported holes that the project has already, from the same project id.
std::vector<std::string> alreadyThere(const Project&, const ImportedAgs&);

/// Adds holes that are not there yet. The first import also proposes a sequence if there is none.
Edited addHoles(const Project&, const ImportedAgs&);
Edited addSurvey(const Project&, const ImportedSurvey&);
Edited addBreaklines(const Project&, SourceFile, std::vector<Polyline3>);

/// The remedy of a finding. @throws Error if it no longer fits the project
Edited apply(const Project&, const Remedy&);
Edited mergeCode(const Project&, const std::string& loggedCode, const std::string& unitCode);

/// Moves an interval boundary of a hole: the base of interval `index` and, if it follows on, the top of the
/// next. @throws Error if there is no such hole or interval, or the depths would be out of order
Edited moveBoundary(const Project&, const std::string& holeName, std::size_t index, Depth to);
Edited setHoleLevel(const Project&, const std::string& holeName, Level);
Edited setHolePlace(const Project&, const std::string& holeName, Point2);
Edited setMethod(const Project&, const std::string& unitCode, Method);
Edited setBaseRule(const Project&, const std::string& unitCode, BaseRule);
Edited setReference(const Project&, const std::string& unitCode, std::optional<BaseReference>);
/// Empty takes the system away. @throws Error if it is not a projected one that is known
Edited setSystem(const Project&, const std::string& crs);
Edited setCell(const Project&, double metres);
Edited addSection(const Project&, const Polyline2&);
Edited removeSection(const Project&, std::size_t index);

/// Every version with the label of the edit that made it. Undo and redo are unlimited.
class History {
public:
    explicit History(Project start);
    const Project& now() const { return m_steps[m_at].project; }
    void add(Edited); ///< forgets what was undone
    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_steps.size(); }
    const std::string& undoLabel() const { return m_steps[m_at].label; }
    const std::string& redoLabel() const { return m_steps[m_at + 1].label; }
    void undo();
    void redo();

private:
    std::vector<Edited> m_steps;
    std::size_t m_at = 0;
};

} // namespace fox
