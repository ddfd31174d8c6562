#pragma once
#include "shell/pane.h"

#include <QSplitter>

namespace fox::app {

/// How a stage's panes are arranged: a view, or parts side by side or one over another.
struct Arrangement {
    std::optional<ViewKind> view;
    Qt::Orientation orientation = Qt::Horizontal;
    std::vector<Arrangement> parts;
    int share = 1; ///< of the space, against its neighbours
};
inline Arrangement only(ViewKind kind, int share = 1) { return {kind, Qt::Horizontal, {}, share}; }
inline Arrangement beside(std::vector<Arrangement> parts, int share = 1) { return {{}, Qt::Horizontal, std::move(parts), share}; }
inline Arrangement over(std::vector<Arrangement> parts, int share = 1) { return {{}, Qt::Vertical, std::move(parts), share}; }

/// The panes of one stage, separated by lines that can be dragged. What the user makes of it is remembered.
class StagePage : public QWidget {
    Q_OBJECT
public:
    StagePage(const QString& id, const Arrangement&, Selection*, QWidget* parent);
    const std::vector<Pane*>& panes() const { return m_panes; }
    /// The first view of a kind; null if none is shown.
    template <typename T>
    T* find() const {
        for (auto* p : m_panes)
            if (auto* v = qobject_cast<T*>(p->view())) return v;
        return nullptr;
    }
    /// How it is divided and what its panes show, for all projects and for this one.
    void remember(const QString& project) const;
    /// As it was left in this project, else in any.
    void recall(const QString& project);

private:
    QWidget* build(const Arrangement&, Selection*);

    QString m_id;
    std::vector<Pane*> m_panes;
    std::vector<QSplitter*> m_splitters;
};

} // namespace fox::app
