#include "views/corner_table.h"

#include "style/words.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

CornerTable::CornerTable(ProjectLine line, QWidget* parent)
    : QDialog(parent), m_line(std::move(line)), m_table(new QTableWidget(this)), m_words(new QLabel(this)) {
    setObjectName("cornerTable");
    setWindowTitle(tr("Corners of the %1").arg(qt(describe(m_line))));
    resize(380, 320);
    m_table->setObjectName("corners");
    m_table->setAccessibleName(tr("Coordinates of the corners"));
    m_table->setColumnCount(m_line.hasLevels() ? 3 : 2);
    m_table->setHorizontalHeaderLabels({tr("Easting, m"), tr("Northing, m"), tr("Level, m")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_words->setWordWrap(true);
    m_words->hide();
    auto* add = new QPushButton(tr("Add after"), this);
    add->setToolTip(tr("A corner halfway to the next one"));
    add->setObjectName("addCorner");
    auto* remove = new QPushButton(tr("Remove"), this);
    remove->setToolTip(tr("The corner that is selected"));
    remove->setObjectName("removeCorner");
    auto* close = new QPushButton(tr("Close"), this);
    for (auto* b : {add, remove, close}) b->setAutoDefault(false);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove);
    buttons->addStretch(1);
    buttons->addWidget(close);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(m_table, 1);
    layout->addWidget(m_words);
    layout->addLayout(buttons);
    fill();
    connect(m_table, &QTableWidget::cellChanged, this, &CornerTable::take);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    const auto row = [this] { return std::size_t(std::clamp(m_table->currentRow(), 0, m_table->rowCount() - 1)); };
    connect(add, &QPushButton::clicked, this, [this, row] {
        auto corners = m_line.corners;
        const auto at = row(), next = at + 1 < corners.size() ? at + 1 : m_line.isClosed() ? 0 : at - 1;
        const auto a = corners[at], b = corners[next];
        corners.insert(corners.begin() + std::ptrdiff_t(at) + 1, {(a.x + b.x) / 2, (a.y + b.y) / 2, (a.z + b.z) / 2});
        change(std::move(corners));
    });
    connect(remove, &QPushButton::clicked, this, [this, row] {
        auto corners = m_line.corners;
        corners.erase(corners.begin() + std::ptrdiff_t(row()));
        change(std::move(corners));
    });
}

void CornerTable::fill() {
    m_filling = true;
    m_table->setRowCount(int(m_line.corners.size()));
    for (int r = 0; r < m_table->rowCount(); ++r) {
        const auto& c = m_line.corners[std::size_t(r)];
        const double values[] = {c.x, c.y, c.z};
        for (int k = 0; k < m_table->columnCount(); ++k) {
            auto* item = new QTableWidgetItem(QString::number(values[k], 'f', 2));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_table->setItem(r, k, item);
        }
    }
    m_filling = false;
}

void CornerTable::take(int row, int column) {
    if (m_filling) return;
    bool ok = false;
    const double typed = m_table->item(row, column)->text().remove(' ').remove(QChar(0x2009)).toDouble(&ok);
    if (!ok) {
        m_words->setText(tr("\"%1\" is not a number.").arg(m_table->item(row, column)->text()));
        m_words->show();
        return fill();
    }
    auto corners = m_line.corners;
    auto& c = corners[std::size_t(row)];
    (column == 0 ? c.x : column == 1 ? c.y : c.z) = typed;
    change(std::move(corners));
}

void CornerTable::change(Polyline3 corners) {
    m_words->hide();
    auto now = m_line;
    now.corners = std::move(corners);
    const auto least = std::size_t(m_line.isClosed() ? 3 : 2);
    if (now.corners.size() < least) {
        m_words->setText(tr("It needs %1 corners at least.").arg(least));
        m_words->show();
        return fill();
    }
    emit editMade([was = m_line, to = now.corners](const Project& p) { return setCorners(p, was, to); });
    m_line = now;
    emit lineChanged(m_line);
    fill();
}

} // namespace fox::app
