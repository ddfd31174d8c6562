#pragma once
#include "project/project.h"

#include <functional>
#include <type_traits>

namespace fox {

/// What an edit makes: the new version, and what History calls the step.
struct Edited {
    Project project;
    std::string label; ///< "Merge M.G. into MG"
};

/// An edit that is still to be made: a function of whatever version is the newest when its turn comes, so that it can't
/// take back what was done since the screen was last drawn. The functions below, with their arguments bound, are such.
class Edit {
public:
    using Make = std::function<Edited(const Project&)>;
    Edit() = default;
    template <typename F>
    requires std::is_invocable_r_v<Edited, F, const Project&> Edit(F make) : m_make(std::move(make)) {}

    /// The same, with what it makes of one version worked out beforehand (on another thread): of that version it then costs
    /// nothing.
    Edit prepared(const Project& of, Edited made) &&;
    /// @throws Error if it does not fit this version (the hole is gone), with a sentence that says so
    Edited operator()(const Project&) const;

private:
    Make m_make;
    std::shared_ptr<const std::pair<Project, Edited>> m_prepared;
};

Edited mergeCode(const Project&, const std::string& loggedCode, const std::string& unitCode);

/// Another column carries the unit: the sequence is proposed anew from its codes.
Edited setUnitHeading(const Project&, const std::string& heading);
Edited setUnitName(const Project&, const std::string& unitCode, const std::string& name);
Edited setUnitColour(const Project&, const std::string& unitCode, const std::string& colour);
Edited setUnitHatch(const Project&, const std::string& unitCode, const std::string& ground);
Edited setMethod(const Project&, const std::string& unitCode, BaseMethod);
Edited setBaseRule(const Project&, const std::string& unitCode, BaseRule);
Edited setReference(const Project&, const std::string& unitCode, std::optional<BaseReference>);
/// Places keep their numbers: for a system that was named wrongly; see moveToSystem. Empty takes the system away.
/// @throws Error if it is not a projected one that is known
Edited setSystem(const Project&, const std::string& crs);
Edited setCell(const Project&, double metres);
/// Named by the first letter that is free; holes within sectionReach() of it are on it.
Edited addSection(const Project&, const Polyline2&);
/// A line through the most holes along the longest way: of all lines through two holes (of many, those at their outside), the one
/// that has the most within sectionReach(); of these the longest. From west to east, a little beyond its holes. None with under
/// two places.
std::optional<Polyline2> proposedSection(const Holes&);
/// Half of the usual (median) distance from a hole to the nearest other one, metres, to 5 m; kSectionHoles at least.
double sectionReach(const Holes&);
/// @throws Error if there is no section of that name
Edited removeSection(const Project&, const std::string& name);

/// Names a version within a project's history; no two versions have the same.
using HistoryState = std::int64_t;
/// A step that a project's file keeps.
struct KeptStep {
    HistoryState state = 0; ///< that it led to
    std::string label;
    bool operator==(const KeptStep&) const = default;
};
/// The steps that a file keeps, the oldest first: steps[at] led to the version that the file holds, those behind it were undone.
/// The first has no label: it is where the others start.
struct KeptHistory {
    std::vector<KeptStep> steps{KeptStep{}};
    std::size_t at = 0;
    bool operator==(const KeptHistory&) const = default;
};

/// Every version with the label of the edit that made it. Undo and redo are unlimited. Versions of earlier sessions stay in the
/// file until somebody goes back to them: see toRead().
class History {
public:
    explicit History(Project now, const KeptHistory& = {});
    const Project& now() const { return *m_steps[m_at].project; }
    HistoryState state() const { return m_steps[m_at].kept.state; }
    void add(Edited); ///< forgets what was undone
    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_steps.size(); }
    const std::string& undoLabel() const { return m_steps[m_at].kept.label; }
    const std::string& redoLabel() const { return m_steps[m_at + 1].kept.label; }
    /// Require that the version that they lead to is there: see toRead().
    void undo();
    void redo();
    enum class Way { Undo, Redo };
    /// The version that the next undo or redo leads to, if it has to be read from the file first, for give().
    std::optional<HistoryState> toRead(Way) const;
    void give(HistoryState, Project);

private:
    struct Step {
        KeptStep kept;
        std::optional<Project> project; ///< none: in the file
    };
    std::vector<Step> m_steps;
    std::size_t m_at = 0;
    HistoryState m_last = 0; ///< the largest so far
};

} // namespace fox
