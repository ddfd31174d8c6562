#pragma once
#include "base/finding.h"

#include <QFrame>
#include <memory>

class QLabel;
class QListView;
class QPushButton;

namespace fox::app {

class FindingsModel;

/// One line with the worst finding, which opens to a list of them all; each with Show and, if it has one, its remedy.
class FindingsStrip : public QFrame {
    Q_OBJECT
public:
    explicit FindingsStrip(QWidget* parent = nullptr);
    void setFindings(std::shared_ptr<const Findings>);

signals:
    void showAsked(const fox::Finding&);
    void remedyAsked(const fox::Remedy&);

protected:
    void resizeEvent(QResizeEvent*) override;

private:
    void showCurrent();
    const Finding* current() const;

    QPushButton *m_counts, *m_show, *m_remedy;
    QLabel* m_words;
    QListView* m_list;
    FindingsModel* m_model;
};

} // namespace fox::app
