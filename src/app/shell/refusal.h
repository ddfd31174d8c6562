#pragma once
#include <QLabel>
#include <QPointer>

namespace fox::app {

/// Why something was refused, said where the hand is: beside the field that has the focus, else beside the cursor. It goes
/// with the next key or press of the mouse.
class Refusal : public QObject {
    Q_OBJECT
public:
    /// `home` is the window in which it is shown when no other has the focus.
    explicit Refusal(QWidget* home);
    void say(const QString& sentence);
    void hide();

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    QWidget* m_home;
    QPointer<QLabel> m_label; ///< a child of the window that it is shown in
};

} // namespace fox::app
