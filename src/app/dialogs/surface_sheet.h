#pragma once
#include "model/where_to_drill.h"
#include "products/products.h"
#include "project/sequence_edits.h"
#include "project/surface_edits.h"

#include <QDialog>

class QLabel;
class QTabWidget;

namespace fox::app {

/// A page of the sheet about one unit's base.
class SurfacePage : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;
    /// The newest products; `unit` has a base in them.
    void setProducts(std::shared_ptr<const ProductSet> products, std::size_t unit) {
        m_products = std::move(products);
        m_unit = unit;
        fill();
    }
    virtual bool settled() const { return true; }
    /// The section line that is chosen in the window.
    virtual void setSection(std::size_t) {}

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);
    void variogramDragged(const fox::Variogram&);
    void drillRanked(const std::vector<fox::DrillPlace>&); ///< the best first; empty: none

protected:
    virtual void fill() = 0;
    const ProductSet& products() const { return *m_products; }
    std::shared_ptr<const ProductSet> sharedProducts() const { return m_products; }
    std::size_t unitIndex() const { return m_unit; }
    const Unit& unit() const { return m_products->project.sequence->units[m_unit]; }
    const BaseSurface& base() const { return *m_products->model->bases[m_unit]; }

private:
    std::shared_ptr<const ProductSet> m_products;
    std::size_t m_unit = 0;
};

/// How one unit's base is made: settings with the variogram and a map, all methods side by side, what each hole says, an
/// ensemble, where the next hole would help most. It stays open beside the window and follows it; every change is an edit at
/// once.
class SurfaceSheet : public QDialog {
    Q_OBJECT
public:
    SurfaceSheet(std::shared_ptr<const ProductSet>, const QString& unitCode, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    void setUnit(const QString& code); ///< ignored if it has no base
    enum class Page { Settings, Methods, Holes, Ensemble, Drill };
    void showPage(Page);
    bool settled() const;
    void setSection(int);

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);
    void variogramDragged(const fox::Variogram&);
    void drillRanked(const std::vector<fox::DrillPlace>&);

private:
    std::shared_ptr<const ProductSet> m_products;
    QString m_unit;
    QTabWidget* m_tabs;
    QLabel* m_title;
    std::vector<SurfacePage*> m_pages;
};

SurfacePage* makeSettingsPage(QWidget* parent);
SurfacePage* makeMethodsPage(QWidget* parent);
SurfacePage* makeContactsPage(QWidget* parent);
SurfacePage* makeEnsemblePage(QWidget* parent);
SurfacePage* makeDrillPage(QWidget* parent);

} // namespace fox::app
