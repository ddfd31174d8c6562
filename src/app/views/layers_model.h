#pragma once
#include "project/edits.h"
#include "views/layer_values.h"

#include <QAbstractTableModel>

namespace fox::app {

/// The table of layers of a grid: a row a rule, from the top; what the cells come to beside it. Setting a value is an edit.
class LayersModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Number, Name, Units, Parts, Thickness, Bottom, Least, Mean, Most, Active, kColumns };
    using QAbstractTableModel::QAbstractTableModel;
    void setProducts(std::shared_ptr<const ProductSet>, const LayerLook&);
    /// The rules of the grid or mesh that is looked at; null if there is none.
    const std::vector<LayerRule>* rules() const;
    std::string name() const; ///< of that grid or mesh
    /// An edit of its rules; `words` say what.
    Edit changed(std::function<void(std::vector<LayerRule>&)> change, const std::string& words) const;
    /// The first layer of a row, and the row of a layer; none where the grid could not be made.
    std::optional<std::size_t> firstLayer(int row) const;
    std::optional<int> rowOf(std::size_t layer) const;

    int rowCount(const QModelIndex& = {}) const override;
    int columnCount(const QModelIndex& = {}) const override { return kColumns; }
    QVariant data(const QModelIndex&, int role) const override;
    bool setData(const QModelIndex&, const QVariant&, int role) override;
    QVariant headerData(int section, Qt::Orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex&) const override;

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);

private:
    /// What the cells of a row come to.
    struct Figures {
        std::size_t first = 0, count = 0; ///< layers
        double least = kNoValue, mean = kNoValue, most = kNoValue;
        std::size_t active = 0;
        void add(double thickness);
    };
    void addFigures(const LayeredGrid&);
    void addFigures(const LayeredMesh&);
    QString words(int row, int column) const;

    std::shared_ptr<const ProductSet> m_products;
    LayerLook m_look;
    std::vector<Figures> m_figures;
};

} // namespace fox::app
