#pragma once
#include <QFrame>

class QLabel;
class QPushButton;

namespace fox::app {

/// A line over the views that stays until what it says is no longer so: the last edits are not in the file, or the project
/// can only be looked at.
class Banner : public QFrame {
    Q_OBJECT
public:
    explicit Banner(QWidget* parent);
    /// Both empty: it is not shown.
    void setState(const QString& notSaved, const QString& readOnly);

signals:
    void saveAgainAsked();
    void saveAsAsked();

private:
    QLabel* m_words;
    QPushButton *m_again, *m_saveAs;
};

} // namespace fox::app
