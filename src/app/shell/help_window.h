#pragma once
#include <QDialog>

class QLineEdit;
class QListWidget;
class QTextBrowser;

namespace fox::app {

/// The guide, without a network: its chapters beside it, and a field to search it.
class HelpWindow : public QDialog {
    Q_OBJECT
public:
    explicit HelpWindow(QWidget* parent);
    /// The chapter of this heading; the beginning if there is none.
    void showChapter(const QString& heading);
    QString chapter() const; ///< that is shown

private:
    void search();

    QListWidget* m_chapters;
    QTextBrowser* m_text;
    QLineEdit* m_search;
};

/// The chapter of the guide about a stage.
QString chapterOf(const QString& stage);

} // namespace fox::app
