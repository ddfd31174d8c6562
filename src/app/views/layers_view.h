#pragma once
#include "views/layers_model.h"
#include "views/view.h"

class QTableView;

namespace fox::app {

/// The table of layers of the grid that is looked at, edited in place.
class LayersView : public View {
    Q_OBJECT
public:
    explicit LayersView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Layers"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override { return {ProductKind::Layers, ProductKind::Meshes}; }
    QList<QAction*> tools() override { return {m_add, m_remove}; }
    QTableView* table() const { return m_table; }

protected:
    void productsChanged() override;
    void paintEvent(QPaintEvent*) override;

private:
    void addLayer();
    void removeLayer();

    LayersModel* m_model;
    QTableView* m_table;
    QAction *m_add, *m_remove;
    bool m_following = false;
    std::string m_grid, m_mesh; ///< that the table shows
};

} // namespace fox::app
