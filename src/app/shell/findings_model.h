#pragma once
#include "base/finding.h"

#include <QAbstractListModel>
#include <memory>

namespace fox::app {

/// Findings as rows: a sign of how bad it is, and where and what it is in words.
class FindingsModel : public QAbstractListModel {
    Q_OBJECT
public:
    using QAbstractListModel::QAbstractListModel;
    void set(std::shared_ptr<const Findings>); ///< null: none yet
    const std::shared_ptr<const Findings>& findings() const { return m_findings; }
    /// Null outside.
    const Finding* at(int row) const;
    /// The row that says the same; -1 if none does.
    int rowOf(const Finding&) const;

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex&, int role) const override;

private:
    std::shared_ptr<const Findings> m_findings;
};

/// A dot in the colour of a severity.
QIcon severityIcon(Severity);

} // namespace fox::app
