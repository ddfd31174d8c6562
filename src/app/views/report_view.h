#pragma once
#include "handover/report_pages.h"
#include "views/background.h"
#include "views/view.h"

class QLabel;
class QListWidget;
class QListWidgetItem;

namespace fox::app {

/// The sheets of the report in their order: ticked for output, dragged to another place, marked where one needs a word before it
/// goes out. The chosen one is what the page shows.
class ReportView : public View {
    Q_OBJECT
public:
    ReportView(Selection*, QWidget* parent);
    QString title() const override { return tr("Report"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_add, m_remove}; }
    bool settled() const override { return !m_filling.busy(); }
    Wanted wanted(const Project& project) const override { return wantedForReport(project); }

protected:
    void productsChanged() override;

private:
    using Filled = std::vector<FilledReportSheet>;
    void chooseWhatToAdd();
    void add(const SheetTemplate&);
    void tellNumbers();
    void removeChosen();
    void showSheets(); ///< from the project, and what is known of their pages
    void showWords(QListWidgetItem*, std::size_t sheet);
    void moved(int from, int to);
    std::string chosen() const;

    QAction *m_add, *m_remove;
    QListWidget* m_list;
    QLabel* m_empty;
    Part<std::vector<ReportEntry>> m_shown;
    std::shared_ptr<const Filled> m_filled;              ///< null: not yet
    bool m_following = false;                            ///< the list follows the project
    Background<std::shared_ptr<const Filled>> m_filling; // last: it uses the above
};

} // namespace fox::app
