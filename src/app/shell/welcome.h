#pragma once
#include <QFrame>

class QVBoxLayout;

namespace fox::app {

/// What a project without data shows in its middle: the demo, files, a project, those that were open last. It goes once there is
/// data, or when it is closed.
class Welcome : public QFrame {
    Q_OBJECT
public:
    explicit Welcome(QWidget* over);
    void setRecent(const QStringList& paths); ///< newest first
    /// Whether it is to be seen; it stays away once it was closed.
    void setWanted(bool);
    void openAgain(); ///< for another project

signals:
    void demoAsked();
    void filesAsked();
    void projectAsked();
    void recentAsked(const QString& path);

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void place();

    QVBoxLayout* m_recent;
    bool m_closed = false;
};

} // namespace fox::app
