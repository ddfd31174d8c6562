#pragma once
#include "shell/session.h"
#include "views/selection.h"

#include <QStringList>

class QWidget;

namespace fox::app {

class PlanView;

/// What actions need of the window that they run in, without the window itself.
class Workspace {
public:
    virtual ~Workspace() = default;
    virtual Session& session() = 0;
    virtual Selection& selection() = 0;
    virtual QWidget* dialogParent() = 0;
    /// A plan in sight; this stage is shown if there is none. Null if that has none either.
    virtual PlanView* planOn(const char* stage) = 0;
    /// The plan of the stage that is shown; null if it has none.
    virtual PlanView* planInSight() = 0;
    virtual void importFiles(const QStringList&) = 0;
    virtual void say(const QString& sentence) = 0;
    /// What was asked for can't be done, and why; said beside the hand too.
    virtual void refuse(const QString& sentence) = 0;
};

} // namespace fox::app
