#pragma once
#include "project/edits.h"

#include <QDialog>

class QLabel;
class QListWidget;
class QPlainTextEdit;

namespace fox::app {

/// What the model's report has: which chapters, and words of one's own at the head of each. It stays open and follows the
/// project.
class ReportSheet : public QDialog {
    Q_OBJECT
public:
    ReportSheet(const Project&, QWidget* parent);
    void setProject(const Project&);

signals:
    void editMade(const Edit&);
    void pdfAsked();

protected:
    bool eventFilter(QObject*, QEvent*) override; ///< words become an edit when the field is left
    void done(int) override;

private:
    std::string chapter() const; ///< the one whose words are in sight
    void showWords();
    void keepWords();

    Part<ReportChoices> m_choices;
    QListWidget* m_chapters;
    QLabel* m_heading;
    QPlainTextEdit* m_words;
    std::string m_shown; ///< chapter whose words stand in the field
    bool m_filling = false;
};

} // namespace fox::app
