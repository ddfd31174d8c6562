#pragma once
#include "project/project.h"

namespace fox {

/// What an edit makes: the new version, and what History calls the step.
struct Edited {
    Project project;
    std::string label; ///< "Merge M.G. into MG"
};

/// The remedy of a finding. @throws Error if it no longer fits the project
Edited apply(const Project&, const Remedy&);
Edited mergeCode(const Project&, const std::string& loggedCode, const std::string& unitCode);

/// Another column carries the unit: the sequence is proposed anew from its codes.
Edited setUnitHeading(const Project&, const std::string& heading);
Edited setUnitName(const Project&, const std::string& unitCode, const std::string& name);
Edited setUnitColour(const Project&, const std::string& unitCode, const std::string& colour);
Edited setUnitHatch(const Project&, const std::string& unitCode, const std::string& ground);
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
