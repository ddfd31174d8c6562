#pragma once
#include <QFrame>

class QLabel;
class QProgressBar;
class QPushButton;
class QTimer;
class QToolButton;

namespace fox::app {

/// The dark line at the foot: place, level and unit under the cursor; the system; exaggeration; work, with Stop, and a list of
/// what else works beside the window. What it says is told to screen readers too.
class StatusLine : public QFrame {
    Q_OBJECT
public:
    explicit StatusLine(QWidget* parent = nullptr);

public slots:
    void setPointed(double easting, double northing, double level, const QString& unit);
    void setSystem(const QString& crs);
    void setExaggeration(double);
    void setBusy(bool);
    void setNotSaved(bool); ///< edits are not in the file: nothing is up to date then
    void setProgress(double fraction, const QString& words);
    void say(const QString& sentence); ///< stays until other work begins

signals:
    void stopAsked();

private:
    void showProgress();
    void showRunning(); ///< how much else works
    void fillRunning();

    QLabel *m_cursor, *m_system, *m_exaggeration, *m_work;
    QProgressBar* m_bar;
    QPushButton* m_stop;
    QToolButton* m_running;
    QTimer* m_patience; ///< until work that goes on is shown
    QString m_words;
    double m_fraction = 0;
    bool m_said = false, m_notSaved = false;
};

} // namespace fox::app
