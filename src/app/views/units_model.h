#pragma once
#include "products/products.h"
#include "project/sequence_edits.h"

#include <QAbstractTableModel>

namespace fox::app {

/// The units of the sequence, a row each, youngest first. Setting a value is an edit; rows are put in another order by
/// dragging.
class UnitsModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column {
        Code,
        Name,
        Colour,
        Sign,
        Logged,
        Base,
        Least,
        Crossing,
        Outline,
        Water,
        kFixedColumns ///< behind them one for each of Sequence::valueKinds()
    };
    using QAbstractTableModel::QAbstractTableModel;
    void setProducts(std::shared_ptr<const ProductSet>);
    /// Words that a cell can have; empty if it takes any.
    QStringList choices(int column) const;

    int rowCount(const QModelIndex& = {}) const override;
    int columnCount(const QModelIndex& = {}) const override;
    /// The kind of value that a column has; null for the fixed ones.
    const UnitValueKind* valueKind(int column) const;
    QVariant data(const QModelIndex&, int role) const override;
    bool setData(const QModelIndex&, const QVariant&, int role) override;
    QVariant headerData(int section, Qt::Orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex&) const override;
    Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QModelIndexList&) const override;
    bool dropMimeData(const QMimeData*, Qt::DropAction, int row, int column, const QModelIndex& parent) override;

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);

private:
    const std::vector<Unit>& units() const { return m_products->project.sequence->units; }
    QString words(const Unit&, int column) const;

    std::shared_ptr<const ProductSet> m_products;
    std::vector<UnitValueKind> m_kinds;
};

} // namespace fox::app
