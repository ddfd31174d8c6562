#include "shell/stage_page.h"

#include <QCryptographicHash>
#include <QSettings>
#include <QVBoxLayout>

namespace fox::app {

StagePage::StagePage(const QString& id, const Arrangement& arrangement, Selection* selection, QWidget* parent)
    : QWidget(parent), m_id(id) {
    setObjectName("desk");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(build(arrangement, selection));
    recall({});
}

QWidget* StagePage::build(const Arrangement& a, Selection* selection) {
    if (a.view) {
        m_panes.push_back(new Pane(*a.view, selection, this));
        return m_panes.back();
    }
    auto* splitter = new QSplitter(a.orientation, this);
    splitter->setHandleWidth(3);
    splitter->setChildrenCollapsible(false);
    QList<int> sizes;
    for (const auto& part : a.parts) {
        auto* child = build(part, selection);
        child->setMinimumSize(90, 90);
        splitter->addWidget(child);
        splitter->setStretchFactor(splitter->count() - 1, part.share);
        sizes << part.share * 100;
    }
    splitter->setSizes(sizes);
    m_splitters.push_back(splitter);
    return splitter;
}

namespace {

/// A group of the settings for a project, by its path.
QString groupOf(const QString& project) {
    return "layout_" + QString::fromLatin1(QCryptographicHash::hash(project.toUtf8(), QCryptographicHash::Sha1).toHex().left(12));
}

} // namespace

void StagePage::remember(const QString& project) const {
    QSettings settings;
    for (const auto& group : {QString(), project.isEmpty() ? QString() : groupOf(project) + "/"}) {
        settings.beginGroup(group + "stage_" + m_id);
        for (std::size_t i = 0; i < m_splitters.size(); ++i)
            settings.setValue(QString("line%1").arg(i), m_splitters[i]->saveState());
        for (std::size_t i = 0; i < m_panes.size(); ++i) settings.setValue(QString("view%1").arg(i), int(m_panes[i]->kind()));
        settings.endGroup();
    }
}

void StagePage::recall(const QString& project) {
    QSettings settings;
    const auto own = groupOf(project) + "/stage_" + m_id;
    settings.beginGroup(!project.isEmpty() && settings.contains(own + "/view0") ? own : "stage_" + m_id);
    // of another arrangement, by an older program: it would not fit
    if (!settings.contains(QString("view%1").arg(m_panes.size() - 1)) || settings.contains(QString("view%1").arg(m_panes.size())))
        return;
    for (std::size_t i = 0; i < m_splitters.size(); ++i)
        if (const auto state = settings.value(QString("line%1").arg(i)).toByteArray(); !state.isEmpty())
            m_splitters[i]->restoreState(state);
    for (std::size_t i = 0; i < m_panes.size(); ++i) {
        const int kind = settings.value(QString("view%1").arg(i), -1).toInt();
        if (kind >= 0 && kind < int(std::size(kViewKinds))) m_panes[i]->show(kViewKinds[kind]);
    }
}

} // namespace fox::app
