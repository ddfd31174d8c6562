#include "shell/findings_model.h"

#include "style/theme.h"

#include <QIcon>
#include <QPainter>

namespace fox::app {

QIcon severityIcon(Severity s) {
    QPixmap picture(10, 10);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(severityColour(s));
    painter.drawEllipse(1, 1, 8, 8);
    return picture;
}

void FindingsModel::set(std::shared_ptr<const Findings> findings) {
    beginResetModel();
    m_findings = std::move(findings);
    endResetModel();
}

const Finding* FindingsModel::at(int row) const {
    return row >= 0 && row < rowCount() ? &(*m_findings)[std::size_t(row)] : nullptr;
}

int FindingsModel::rowOf(const Finding& wanted) const {
    for (int row = 0; row < rowCount(); ++row) {
        const auto& f = *at(row);
        if (f.rule == wanted.rule && f.file == wanted.file && f.hole == wanted.hole && f.message == wanted.message) return row;
    }
    return -1;
}

int FindingsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() || !m_findings ? 0 : int(m_findings->size());
}

QVariant FindingsModel::data(const QModelIndex& index, int role) const {
    const auto* f = at(index.row());
    if (!f) return {};
    if (role == Qt::DisplayRole || role == Qt::ToolTipRole) return QString::fromStdString(describe(*f));
    return role == Qt::DecorationRole ? QVariant(severityIcon(f->severity)) : QVariant();
}

} // namespace fox::app
