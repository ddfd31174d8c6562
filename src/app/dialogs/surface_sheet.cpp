#include "dialogs/surface_sheet.h"

#include "style/theme.h"

#include <QLabel>
#include <QTabWidget>
#include <QVBoxLayout>

namespace fox::app {

SurfaceSheet::SurfaceSheet(std::shared_ptr<const ProductSet> products, const QString& unitCode, QWidget* parent)
    : QDialog(parent),
      m_products(std::move(products)),
      m_tabs(new QTabWidget(this)),
      m_title(new QLabel(this)),
      m_pages{makeSettingsPage(this), makeMethodsPage(this), makeContactsPage(this), makeEnsemblePage(this),
              makeDrillPage(this)} {
    setObjectName("surfaceSheet");
    resize(940, 620);
    m_tabs->setObjectName("surfaceTabs");
    m_tabs->addTab(m_pages[0], tr("How it is made"));
    m_tabs->addTab(m_pages[1], tr("Methods compared"));
    m_tabs->addTab(m_pages[2], tr("Contact data"));
    m_tabs->addTab(m_pages[3], tr("Uncertainty"));
    m_tabs->addTab(m_pages[4], tr("Next hole"));
    m_title->setStyleSheet("font-size: 15px; font-weight: 600;");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 14, 18, 16);
    layout->addWidget(m_title);
    layout->addWidget(m_tabs, 1);
    for (auto* page : m_pages) {
        connect(page, &SurfacePage::editMade, this, &SurfaceSheet::editMade);
        connect(page, &SurfacePage::failed, this, &SurfaceSheet::failed);
        connect(page, &SurfacePage::variogramDragged, this, &SurfaceSheet::variogramDragged);
        connect(page, &SurfacePage::drillRanked, this, &SurfaceSheet::drillRanked);
    }
    connect(m_tabs, &QTabWidget::currentChanged, this, [this] { setProducts(m_products); });
    setUnit(unitCode);
}

void SurfaceSheet::setUnit(const QString& code) {
    const auto u = m_products->project.sequence->index(code.toStdString());
    if (!u || *u >= m_products->model->bases.size()) return;
    m_unit = code;
    setProducts(m_products);
}

void SurfaceSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    m_products = std::move(products);
    const auto u = m_products->project.sequence->index(m_unit.toStdString());
    if (!u || !m_products->modelGrid || *u >= m_products->model->bases.size()) return;
    const auto name = QString::fromStdString(m_products->project.sequence->units[*u].name);
    m_title->setText(tr("Base of %1").arg(name));
    setWindowTitle(tr("Base of %1 - Fox Cellar").arg(name));
    m_pages[std::size_t(m_tabs->currentIndex())]->setProducts(m_products, *u); // the others when they are shown
}

void SurfaceSheet::showPage(Page page) { m_tabs->setCurrentIndex(int(page)); }

void SurfaceSheet::setSection(int section) {
    for (auto* page : m_pages) page->setSection(std::size_t(std::max(0, section)));
}

bool SurfaceSheet::settled() const { return m_pages[std::size_t(m_tabs->currentIndex())]->settled(); }

} // namespace fox::app
