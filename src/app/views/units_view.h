#pragma once
#include "views/units_model.h"
#include "views/view.h"

class QTableView;

namespace fox::app {

/// The units of the sequence as a table: put in order by dragging, edited in place.
class UnitsView : public View {
    Q_OBJECT
public:
    explicit UnitsView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Units"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_up, m_down, m_add, m_remove}; }
    QTableView* table() const { return m_table; }

protected:
    void productsChanged() override;

private:
    std::optional<std::size_t> current() const;
    void move(int by);
    void addUnit();
    void offerValues(const QPoint& at); ///< of the heading
    void addValue();

    UnitsModel* m_model;
    QTableView* m_table;
    QAction *m_up, *m_down, *m_add, *m_remove;
    bool m_following = false;
    Part<Sequence> m_shown;
};

} // namespace fox::app
