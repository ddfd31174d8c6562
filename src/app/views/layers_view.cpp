#include "views/layers_view.h"

#include "base/errors.h"
#include "project/layer_edits.h"
#include "style/theme.h"
#include "style/words.h"

#include <QHeaderView>
#include <QPainter>
#include <QTableView>
#include <QVBoxLayout>

namespace fox::app {

LayersView::LayersView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_model(new LayersModel(this)),
      m_table(new QTableView(this)),
      m_add(new QAction(tr("add"), this)),
      m_remove(new QAction(tr("remove"), this)) {
    setObjectName("layersView");
    m_table->setObjectName("layersTable");
    m_table->setAccessibleName(tr("Layers of the grid, from the top"));
    m_table->setModel(m_model);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setShowGrid(false);
    m_table->setAlternatingRowColors(true);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->horizontalHeader()->setHighlightSections(false);
    static constexpr int kWide[LayersModel::kColumns] = {36, 98, 78, 58, 46, 54, 42, 44, 44, 50};
    for (int c = 0; c < LayersModel::kColumns; ++c) m_table->setColumnWidth(c, kWide[c]);
    m_table->horizontalHeader()->setStretchLastSection(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_table);
    setFocusProxy(m_table);
    m_add->setToolTip(tr("Part a layer of 1 m off the top of the chosen one"));
    m_remove->setToolTip(tr("Take the chosen layer out; its units go with the next older ones"));
    connect(m_add, &QAction::triggered, this, &LayersView::addLayer);
    connect(m_remove, &QAction::triggered, this, &LayersView::removeLayer);
    connect(m_model, &LayersModel::editMade, this, &View::editMade, Qt::QueuedConnection); // the editor closes first
    connect(m_model, &LayersModel::failed, this, &View::failed);
    connect(m_table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        const auto first = m_model->firstLayer(now.row());
        if (m_following || !first) return;
        auto look = this->selection()->layerLook();
        look.layer = *first;
        this->selection()->setLayerLook(look);
    });
    connect(selection, &Selection::layerLookChanged, this, [this] {
        const auto& look = this->selection()->layerLook();
        const auto row = m_model->rowOf(look.layer);
        if (look.grid != m_grid || look.mesh != m_mesh) return productsChanged();
        m_following = true;
        if (row && m_table->currentIndex().row() != *row) m_table->selectRow(*row);
        m_following = false;
    });
}

QString LayersView::summary() const {
    if (const auto* mesh = shownMesh(products().get(), selection()->layerLook()))
        return mesh->mesh ? tr("%1: %2, %3 · thickness in m")
                                .arg(qt(mesh->spec.name), counted(qint64(mesh->mesh->elements()), "prism"),
                                     counted(qint64(mesh->mesh->layers.size()), "layer"))
                          : tr("%1: %2").arg(qt(mesh->spec.name), qt(mesh->problem));
    const auto* made = shownLayers(products().get(), selection()->layerLook());
    if (!made) return {};
    if (!made->grid) return tr("%1: %2").arg(qt(made->spec.name), qt(made->problem));
    const auto& g = *made->grid;
    return tr("%1: %2 × %3 cells, %4 · thickness in m")
        .arg(qt(made->spec.name))
        .arg(g.plan.rows())
        .arg(g.plan.columns())
        .arg(counted(qint64(g.layers.size()), "layer"));
}

void LayersView::productsChanged() {
    m_following = true;
    m_grid = selection()->layerLook().grid, m_mesh = selection()->layerLook().mesh;
    const auto at = m_table->currentIndex();
    m_model->setProducts(products(), selection()->layerLook());
    const auto row = m_model->rowOf(selection()->layerLook().layer);
    if (row) m_table->setCurrentIndex(m_model->index(*row, std::max(0, at.column())));
    m_following = false;
    m_table->setVisible(m_model->rules() != nullptr);
    for (auto* a : {m_add, m_remove}) a->setEnabled(m_model->rules() != nullptr);
    emit summaryChanged();
    update();
}

void LayersView::paintEvent(QPaintEvent*) {
    if (m_model->rules()) return;
    QPainter painter(this);
    painter.fillRect(rect(), colour::paper);
    paintEmpty(painter, rect(), tr("No layered grid yet. Add one in the side panel: it begins with a layer a unit."));
}

void LayersView::addLayer() {
    if (!m_model->rules()) return;
    const auto row = std::size_t(std::max(0, m_table->currentIndex().row()));
    emit editMade(m_model->changed(
        [row](std::vector<LayerRule>& layers) {
            // the upper metre of the chosen one: something to see, and to change
            const auto at = std::min(row, layers.size() - 1);
            LayerRule added{"New layer", layers[at].units};
            added.thickness = 1;
            layers.insert(layers.begin() + std::ptrdiff_t(at), std::move(added));
        },
        "add a layer"));
}

void LayersView::removeLayer() {
    const int chosen = m_table->currentIndex().row();
    if (!m_model->rules() || chosen < 0) return;
    const auto row = std::size_t(chosen);
    const auto was = (*m_model->rules())[row];
    emit editMade(m_model->changed(
        [row, was](std::vector<LayerRule>& layers) {
            if (row >= layers.size() || !(layers[row] == was)) throw Error("The layer is another one by now.");
            if (layers.size() == 1) throw Error("There is one layer at least.");
            // the lowest passes on what it ends at
            if (row + 1 == layers.size() && !layers[row - 1].bottom) layers[row - 1].bottom = layers[row].bottom;
            layers.erase(layers.begin() + std::ptrdiff_t(row));
        },
        "remove layer " + was.name));
}

} // namespace fox::app
