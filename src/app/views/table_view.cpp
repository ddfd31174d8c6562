#include "views/table_view.h"

#include "style/theme.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLineEdit>
#include <QSortFilterProxyModel>
#include <QTableView>
#include <QVBoxLayout>

namespace fox::app {

TableView::TableView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_model(new HoleTableModel(this)),
      m_proxy(new QSortFilterProxyModel(this)),
      m_table(new QTableView(this)),
      m_filter(new QLineEdit(this)),
      m_filterAction(new QAction(tr("filter"), this)),
      m_copy(new QAction(tr("copy"), this)) {
    setObjectName("tableView");
    m_proxy->setSourceModel(m_model);
    m_proxy->setSortRole(HoleTableModel::kSortRole);
    m_proxy->setFilterKeyColumn(-1);
    m_proxy->setFilterCaseSensitivity(Qt::CaseInsensitive);
    m_table->setModel(m_proxy);
    m_table->setAccessibleName(tr("Table of holes"));
    m_table->setSortingEnabled(true);
    m_table->sortByColumn(HoleTableModel::Name, Qt::AscendingOrder);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(23);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    m_table->setWordWrap(false);
    static constexpr int kWidths[] = {88, 112, 88, 96, 92, 84, 118};
    for (int c = 0; c < int(std::size(kWidths)); ++c) m_table->setColumnWidth(c, kWidths[c]);
    m_filter->setPlaceholderText(tr("Show rows that contain…"));
    m_filter->setClearButtonEnabled(true);
    m_filter->hide();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(m_filter);
    layout->addWidget(m_table);
    setFocusProxy(m_table);

    m_filterAction->setToolTip(tr("Show only rows that contain some text"));
    m_filterAction->setCheckable(true);
    m_copy->setToolTip(tr("Copy the chosen rows, or all, for a spreadsheet (Ctrl+C)"));
    m_copy->setShortcut(QKeySequence::Copy);
    m_copy->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    addAction(m_copy);
    connect(m_filterAction, &QAction::toggled, this, [this](bool on) {
        m_filter->setVisible(on);
        on ? m_filter->setFocus() : m_filter->clear();
    });
    connect(m_filter, &QLineEdit::textChanged, m_proxy, &QSortFilterProxyModel::setFilterFixedString);
    connect(m_filter, &QLineEdit::textChanged, this, &View::summaryChanged);
    connect(m_copy, &QAction::triggered, this, &TableView::copy);
    connect(m_model, &HoleTableModel::editMade, this, &View::editMade);
    connect(m_table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        if (!m_following && now.isValid()) this->selection()->setHole(m_model->nameAt(m_proxy->mapToSource(now).row()));
    });
    connect(m_table, &QAbstractItemView::entered, this,
            [this](const QModelIndex& at) { this->selection()->setHovered(m_model->nameAt(m_proxy->mapToSource(at).row())); });
    m_table->setMouseTracking(true);
    connect(selection, &Selection::holeChanged, this, &TableView::showSelected);
}

QString TableView::summary() const {
    if (!products()) return {};
    int problems = 0;
    for (int r = 0; r < m_model->rowCount(); ++r)
        problems += !m_model->data(m_model->index(r, HoleTableModel::Problem), Qt::DisplayRole).toString().isEmpty();
    const auto shown = m_proxy->rowCount() == m_model->rowCount()
                           ? tr("%1 rows").arg(m_model->rowCount())
                           : tr("%1 of %2 rows").arg(m_proxy->rowCount()).arg(m_model->rowCount());
    return tr("holes · %1 · %2 with findings").arg(shown).arg(problems);
}

void TableView::productsChanged() {
    m_following = true;
    m_model->setProducts(products());
    m_following = false;
    showSelected();
}

void TableView::showSelected() {
    m_following = true;
    const int row = m_model->rowOf(selection()->hole());
    const auto index = row < 0 ? QModelIndex() : m_proxy->mapFromSource(m_model->index(row, 0));
    if (index.isValid() && index.row() != m_table->currentIndex().row()) {
        m_table->selectRow(index.row());
        m_table->scrollTo(index);
    } else if (!index.isValid()) {
        m_table->clearSelection();
        m_table->setCurrentIndex({});
    }
    m_following = false;
}

void TableView::copy() {
    auto rows = m_table->selectionModel()->selectedRows();
    if (rows.size() <= 1) {
        rows.clear();
        for (int r = 0; r < m_proxy->rowCount(); ++r) rows << m_proxy->index(r, 0);
    }
    QStringList lines;
    QStringList header;
    for (int c = 0; c < HoleTableModel::Columns; ++c)
        header << m_model->headerData(c, Qt::Horizontal, Qt::DisplayRole).toString();
    lines << header.join('\t');
    for (const auto& row : rows) {
        QStringList cells;
        // plain numbers: a spreadsheet does not know thin spaces
        for (int c = 0; c < HoleTableModel::Columns; ++c) cells << m_proxy->index(row.row(), c).data(Qt::EditRole).toString();
        lines << cells.join('\t');
    }
    QGuiApplication::clipboard()->setText(lines.join('\n'));
}

} // namespace fox::app
