#include "dialogs/cell_groups_sheet.h"

#include "project/layer_edits.h"
#include "style/words.h"
#include "views/layer_values.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>
#include <set>

namespace fox::app {

namespace {

QTableWidgetItem* cellOf(const QString& text, bool isNumber) {
    auto* item = new QTableWidgetItem(text);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    if (isNumber) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    return item;
}

/// Gives a group an answer of its own, or takes it away where it is the one for all.
void setAnswer(LayerSpec& spec, const PlanGrid& plan, const CellGroup& group, CellAnswer answer) {
    std::erase_if(spec.answers.groups, [&](const GroupAnswer& a) {
        const auto cell = plan.cellAt(a.at);
        return a.mark == group.mark && a.layer == group.layer && cell && std::ranges::binary_search(group.columns, *cell);
    });
    if (answer != spec.answerForAll(group.mark)) spec.answers.groups.push_back({group.mark, group.layer, group.at, answer});
}

} // namespace

CellGroupsSheet::CellGroupsSheet(Selection* selection, QWidget* parent) : QDialog(parent), m_selection(selection) {
    setObjectName("cellGroups");
    setWindowTitle(tr("Groups of cells that the checks found"));
    resize(1060, 460);
    auto* all = new QVBoxLayout(this);
    m_words = new QLabel(this);
    m_words->setWordWrap(true);
    m_table = new QTableWidget(0, kColumns, this);
    m_table->setObjectName("groups");
    m_table->setHorizontalHeaderLabels({tr("Check"), tr("Layer"), tr("Cells"), tr("Area, m²"), tr("Thickening moves, m³"),
                                        tr("Joining moves, m³"), tr("Answer")});
    m_table->verticalHeader()->hide();
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->horizontalHeader()->setStretchLastSection(true);
    all->addWidget(m_words);
    all->addWidget(m_table, 1);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row >= 0 && row != before) showCells(row);
    });
    connect(m_selection, &Selection::layerLookChanged, this, &CellGroupsSheet::fill);
}

void CellGroupsSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    m_products = std::move(products);
    fill();
}

const LayerProduct* CellGroupsSheet::made() const { return shownLayers(m_products.get(), m_selection->layerLook()); }

void CellGroupsSheet::fill() {
    const auto* grid = made();
    constexpr std::size_t kMostRows = 500;
    std::vector<CellGroup> groups;
    if (grid && grid->grid) groups = grid->grid->groups;
    const auto found = groups.size();
    if (groups.size() > kMostRows) groups.resize(kMostRows);
    if (!grid || !grid->grid)
        m_words->setText(tr("The project has no layered grid."));
    else if (groups.empty())
        m_words->setText(
            tr("%1: no cells are too thin, missing among their neighbours, or active alone.").arg(qt(grid->spec.name)));
    else
        m_words->setText(
            tr("%1: %2. An answer holds for the group of cells at its place, also when the model changes; the others "
               "have the answer for all, in the side panel. Select several rows to answer them at once.%3")
                .arg(qt(grid->spec.name), counted(qint64(found), "group"),
                     found > groups.size() ? tr(" The %1 largest are listed.").arg(groups.size()) : QString()));
    const int row = m_table->currentRow();
    const auto selected = m_table->selectedRanges();
    m_groups = std::move(groups);
    const QSignalBlocker quiet(m_table);
    m_table->setRowCount(int(m_groups.size()));
    for (int r = 0; r < int(m_groups.size()); ++r) {
        const auto& g = m_groups[std::size_t(r)];
        const bool canThicken = std::ranges::count(answersTo(g.mark), CellAnswer::Thicken) > 0;
        const bool canJoin = std::ranges::count(answersTo(g.mark), CellAnswer::Join) > 0;
        m_table->setItem(r, Check, cellOf(qt(fox::words(g.mark)), false));
        m_table->setItem(r, Layer, cellOf(tr("%1 %2").arg(g.layer + 1).arg(qt(grid->grid->layers[g.layer])), false));
        m_table->setItem(r, Cells, cellOf(QString::number(g.columns.size()), true));
        m_table->setItem(r, Area, cellOf(QString::number(g.area, 'f', 0), true));
        m_table->setItem(r, Thicken, cellOf(canThicken ? QString::number(g.thicken, 'f', 1) : QString(), true));
        m_table->setItem(r, Join, cellOf(canJoin ? QString::number(g.join, 'f', 1) : QString(), true));
        m_table->setItem(r, Answer, cellOf({}, false));
        m_table->setCellWidget(r, Answer, answerBox(g, r));
    }
    m_table->resizeColumnsToContents();
    m_table->setColumnWidth(Check, 190);
    if (row >= 0 && row < m_table->rowCount()) m_table->setCurrentCell(row, Check, QItemSelectionModel::NoUpdate);
    m_table->clearSelection();
    for (const auto& range : selected) m_table->setRangeSelected(range, true);
}

QComboBox* CellGroupsSheet::answerBox(const CellGroup& group, int row) {
    auto* box = new QComboBox(m_table);
    box->setAccessibleName(tr("What becomes of these cells"));
    const auto answers = answersTo(group.mark);
    const auto forAll = made()->spec.answerForAll(group.mark);
    for (const auto a : answers) box->addItem(a == forAll ? tr("%1 (as all)").arg(qt(fox::words(a))) : qt(fox::words(a)));
    box->setCurrentIndex(int(std::ranges::find(answers, group.answer) - answers.begin()));
    connect(box, &QComboBox::activated, this, [this, row](int choice) { answer(row, choice); });
    return box;
}

/// The row, or all that are selected with it and have the same check.
void CellGroupsSheet::answer(int row, int choice) {
    const auto mark = m_groups[std::size_t(row)].mark;
    const auto answer = answersTo(mark)[std::size_t(choice)];
    std::set<int> rows;
    for (const auto& i : m_table->selectionModel()->selectedIndexes()) rows.insert(i.row());
    if (!rows.contains(row)) rows = {row};
    std::vector<CellGroup> groups;
    for (const int r : rows)
        if (const auto& g = m_groups[std::size_t(r)]; g.mark == mark) groups.push_back(g);
    if (std::ranges::all_of(groups, [&](const CellGroup& g) { return g.answer == answer; })) return;
    emit editMade([name = made()->spec.name, plan = made()->grid->plan, groups, answer](const Project& p) {
        return changeLayeredGrid(
            p, name,
            [&](LayerSpec& s) {
                for (const auto& g : groups) setAnswer(s, plan, g, answer);
            },
            "answer for cells");
    });
}

void CellGroupsSheet::showCells(int row) {
    const auto& g = m_groups[std::size_t(row)];
    auto look = m_selection->layerLook();
    look.value = "checks", look.layer = g.layer, look.onPlan = true;
    if (const auto cell = made()->grid->plan.cellAt(g.at)) {
        const int columns = made()->grid->plan.columns();
        look.line = look.byColumn ? int(*cell) % columns : int(*cell) / columns;
    }
    m_selection->setLayerLook(look);
    emit placeShown(g.at);
}

} // namespace fox::app
