#pragma once
#include <QFrame>

class QLabel;
class QPushButton;

namespace fox::app {

/// A line over the views that stays until what it says is no longer so: the last edits are not in the file, the project can
/// only be looked at, or it has data and no name yet.
class Banner : public QFrame {
    Q_OBJECT
public:
    explicit Banner(QWidget* parent);
    /// The first that is not empty is shown; none: the banner is hidden.
    void setState(const QString& notSaved, const QString& readOnly, const QString& unnamed);

signals:
    void saveAgainAsked();
    void saveAsAsked();

private:
    QLabel* m_words;
    QPushButton *m_again, *m_saveAs;
};

} // namespace fox::app
