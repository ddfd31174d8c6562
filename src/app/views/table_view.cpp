#include "views/table_view.h"

#include "style/theme.h"
#include "style/words.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QVBoxLayout>

namespace fox::app {

TableView::TableView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_model(new TableModel(this)),
      m_table(new QTableView(this)),
      m_filter(new QLineEdit(this)),
      m_showRows(new QPushButton(tr("Show only these"), this)),
      m_choose(new QAction(tr("rows"), this)),
      m_columns(new QAction(tr("columns"), this)),
      m_filterAction(new QAction(tr("filter"), this)),
      m_copy(new QAction(tr("copy"), this)),
      m_paste(new QAction(tr("paste"), this)) {
    setObjectName("tableView");
    m_table->setModel(m_model);
    m_table->setAccessibleName(tr("Table"));
    m_table->setSortingEnabled(true);
    m_table->sortByColumn(0, Qt::AscendingOrder);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    m_table->verticalHeader()->setDefaultSectionSize(23);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->horizontalHeader()->setSectionsMovable(true);
    m_table->horizontalHeader()->setContextMenuPolicy(Qt::CustomContextMenu);
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    m_table->setWordWrap(false);
    m_filter->setPlaceholderText(tr("Show rows that contain…"));
    m_filter->setClearButtonEnabled(true);
    m_filter->setObjectName("tableFilter");
    m_filter->hide();
    m_showRows->setObjectName("showRows");
    m_showRows->setToolTip(tr("Show only the holes of these rows on plan, sections and in 3D"));
    m_showRows->hide();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    auto* top = new QHBoxLayout;
    top->setContentsMargins(0, 0, 0, 0);
    top->addWidget(m_filter, 1);
    top->addWidget(m_showRows);
    layout->addLayout(top);
    layout->addWidget(m_table);
    setFocusProxy(m_table);

    m_choose->setToolTip(tr("Show the holes, the logged codes, the data corrections, or any group of an imported file"));
    m_columns->setToolTip(tr("Choose which columns are shown"));
    m_filterAction->setToolTip(tr("Show only rows that contain some text (Ctrl+F)"));
    m_filterAction->setCheckable(true);
    m_filterAction->setShortcut(QKeySequence::Find);
    m_copy->setToolTip(tr("Copy the chosen rows, or all, for a spreadsheet (Ctrl+C)"));
    m_copy->setShortcut(QKeySequence::Copy);
    m_paste->setShortcut(QKeySequence::Paste);
    for (auto* a : {m_filterAction, m_copy, m_paste}) {
        a->setShortcutContext(Qt::WidgetWithChildrenShortcut);
        addAction(a);
    }
    connect(m_choose, &QAction::triggered, this, &TableView::chooseTable);
    connect(m_columns, &QAction::triggered, this, &TableView::chooseColumns);
    connect(m_table->horizontalHeader(), &QWidget::customContextMenuRequested, this, &TableView::chooseColumns);
    connect(m_filterAction, &QAction::toggled, this, [this](bool on) {
        m_filter->setVisible(on);
        m_showRows->setVisible(on);
        on ? m_filter->setFocus() : m_filter->clear();
    });
    connect(m_filter, &QLineEdit::textChanged, m_model, &TableModel::setFilter);
    connect(m_showRows, &QPushButton::clicked, this, [this] { // the holes of the rows that are left
        std::set<std::string> holes;
        for (int r = 0; r < m_model->rowCount(); ++r)
            if (const auto hole = m_model->content()->hole(m_model->sourceRow(r)); !hole.isEmpty())
                holes.insert(hole.toStdString());
        if (holes.empty()) return emit failed(tr("No row that is left is of a hole."));
        this->selection()->setShownHoles(holes);
    });
    connect(m_copy, &QAction::triggered, this, &TableView::copy);
    connect(m_paste, &QAction::triggered, this, &TableView::paste);
    connect(m_model, &TableModel::editMade, this, &View::editMade);
    connect(m_model, &TableModel::failed, this, &View::failed);
    connect(m_model, &TableModel::ordered, this, &TableView::rowsChanged);
    connect(m_table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        if (m_following || !now.isValid()) return;
        if (const auto hole = m_model->content()->hole(m_model->sourceRow(now.row())); !hole.isEmpty())
            this->selection()->setHole(hole);
    });
    connect(m_table, &QAbstractItemView::entered, this, [this](const QModelIndex& at) {
        this->selection()->setHovered(m_model->content()->hole(m_model->sourceRow(at.row())));
    });
    m_table->setMouseTracking(true);
    connect(selection, &Selection::holeChanged, this, &TableView::showSelected);
    showTable("holes");
}

QString TableView::summary() const {
    if (!products() || !m_model->content()) return {};
    const int all = m_model->content()->rows(), shown = m_model->rowCount();
    const auto rows = shown == all ? counted(qint64(all), "row") : tr("%1 of %2 rows").arg(shown).arg(all);
    const auto what = QString::fromUtf8("%1 · %2").arg(m_model->content()->name(), rows);
    if (m_key != "holes") return what;
    int problems = 0;
    for (int r = 0; r < all; ++r) problems += !m_model->content()->text(r, HoleProblem).isEmpty();
    return QString::fromUtf8("%1 · %2").arg(what, tr("%1 with findings").arg(problems));
}

void TableView::showTable(const QString& key) {
    m_key = key;
    m_choose->setText(key.startsWith("group:") ? key.section(':', -1)
                      : key == "codes"         ? tr("codes")
                      : key == "corrections"   ? tr("changes")
                                               : tr("holes"));
    if (!products()) return;
    productsChanged();
}

void TableView::productsChanged() {
    if (!products()) return;
    m_model->setContent(makeTableContent(m_key, products()));
}

void TableView::rowsChanged() {
    if (m_laidOut != m_key) layOutColumns();
    if (m_wantedLine && m_key.startsWith("group:") && m_laidOut == m_key) {
        for (int r = 0; r < m_model->rowCount(); ++r)
            if (m_model->content()->number(m_model->sourceRow(r), 0) == double(*m_wantedLine)) {
                m_wantedLine.reset();
                m_table->selectRow(r);
                m_table->scrollTo(m_model->index(r, 0));
                break;
            }
    } else {
        showSelected();
    }
    emit summaryChanged();
}

Wanted TableView::wanted(const Project&) const {
    Wanted out{ProductKind::ImportedTables, ProductKind::AllFindings};
    if (m_key == "excavations") out.kinds.insert(ProductKind::Excavations);
    return out;
}

void TableView::showLine(int line) {
    m_wantedLine = line;
    rowsChanged();
}

void TableView::layOutColumns() {
    m_laidOut = m_key;
    const auto& columns = m_model->content()->columns();
    const auto kind = m_key.startsWith("group:") ? m_key.section(':', -1) : m_key;
    const auto hidden = QSettings().value("hiddenColumns/" + kind);
    for (int c = 0; c < int(columns.size()); ++c) {
        m_table->setColumnWidth(c, columns[std::size_t(c)].width);
        const bool hide =
            hidden.isValid() ? hidden.toStringList().contains(columns[std::size_t(c)].name) : columns[std::size_t(c)].hidden;
        m_table->setColumnHidden(c, hide);
    }
}

void TableView::chooseTable() {
    if (!products()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    QMenu* into = menu;
    for (const auto& kind : tableKinds(*products())) {
        if (kind.separated) into = menu->addMenu(kind.key.section(':', 1, -2));
        auto* a = into->addAction(kind.words, this, [this, key = kind.key] { showTable(key); });
        a->setCheckable(true);
        a->setChecked(kind.key == m_key);
    }
    menu->popup(QCursor::pos());
}

void TableView::chooseColumns() {
    if (!m_model->content()) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto& columns = m_model->content()->columns();
    for (int c = 0; c < int(columns.size()); ++c) {
        auto* a = menu->addAction(columns[std::size_t(c)].name);
        a->setCheckable(true);
        a->setChecked(!m_table->isColumnHidden(c));
        connect(a, &QAction::toggled, this, [this, c](bool on) {
            m_table->setColumnHidden(c, !on);
            QStringList hidden;
            const auto& all = m_model->content()->columns();
            for (int k = 0; k < int(all.size()); ++k)
                if (m_table->isColumnHidden(k)) hidden << all[std::size_t(k)].name;
            const auto kind = m_key.startsWith("group:") ? m_key.section(':', -1) : m_key;
            QSettings().setValue("hiddenColumns/" + kind, hidden);
        });
    }
    menu->popup(QCursor::pos());
}

void TableView::showSelected() {
    m_following = true;
    const auto now = m_table->currentIndex();
    const auto wanted = selection()->hole();
    const bool there = now.isValid() && m_model->content() && m_model->content()->hole(m_model->sourceRow(now.row())) == wanted;
    const int row = there ? now.row() : m_model->rowOfHole(wanted);
    if (row >= 0 && !there) {
        m_table->selectRow(row);
        m_table->scrollTo(m_model->index(row, 0));
    } else if (row < 0) {
        m_table->clearSelection();
        m_table->setCurrentIndex({});
    }
    m_following = false;
}

void TableView::copy() {
    if (!m_model->content()) return;
    std::vector<int> rows;
    for (const auto& index : m_table->selectionModel()->selectedRows()) rows.push_back(index.row());
    if (rows.size() <= 1) {
        rows.clear();
        for (int r = 0; r < m_model->rowCount(); ++r) rows.push_back(r);
    }
    std::ranges::sort(rows);
    QStringList lines, header;
    const auto each = [&](auto&& use) {
        for (int v = 0; v < m_model->columnCount(); ++v)
            if (const int c = m_table->horizontalHeader()->logicalIndex(v); !m_table->isColumnHidden(c)) use(c);
    };
    each([&](int c) { header << m_model->headerData(c, Qt::Horizontal, Qt::DisplayRole).toString(); });
    lines << header.join('\t');
    for (const int row : rows) {
        QStringList cells;
        // plain numbers: a spreadsheet does not know thin spaces
        each([&](int c) { cells << m_model->index(row, c).data(Qt::EditRole).toString().replace('\t', ' ').replace('\n', ' '); });
        lines << cells.join('\t');
    }
    QGuiApplication::clipboard()->setText(lines.join('\n'));
}

void TableView::paste() { m_model->paste(m_table->currentIndex(), QGuiApplication::clipboard()->text()); }

} // namespace fox::app
