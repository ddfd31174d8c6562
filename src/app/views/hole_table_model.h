#pragma once
#include "project/edits.h"
#include "project/products.h"

#include <QAbstractTableModel>

namespace fox::app {

/// The holes, one a row; one model for all tables of them. Places and levels can be edited.
class HoleTableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Name, Kind, Easting, Northing, GroundLevel, FinalDepth, Source, Problem, Columns };
    /// Numbers for sorting; text otherwise.
    static constexpr int kSortRole = Qt::UserRole;

    using QAbstractTableModel::QAbstractTableModel;
    void setProducts(std::shared_ptr<const ProductSet>);
    QString nameAt(int row) const;
    int rowOf(const QString& name) const; ///< -1 if there is none

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex&, int role) const override;
    QVariant headerData(int section, Qt::Orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex&) const override;
    bool setData(const QModelIndex&, const QVariant&, int role) override;

signals:
    void editMade(const fox::Edited&);

private:
    struct Row {
        std::string name, problem;
        Severity severity = Severity::Note;
    };
    std::shared_ptr<const ProductSet> m_products;
    std::vector<Row> m_rows;
};

} // namespace fox::app
