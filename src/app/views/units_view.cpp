#include "views/units_view.h"

#include "base/errors.h"

#include <QComboBox>
#include <QHeaderView>
#include <QInputDialog>
#include <QMenu>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Cells that take a few words only are chosen from a list.
class ChoiceDelegate : public QStyledItemDelegate {
public:
    explicit ChoiceDelegate(UnitsModel* model) : QStyledItemDelegate(model), m_model(model) {}

    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto choices = m_model->choices(index.column());
        if (choices.isEmpty()) return QStyledItemDelegate::createEditor(parent, option, index);
        auto* box = new QComboBox(parent);
        box->addItems(choices);
        connect(box, &QComboBox::activated, this, [this, box] {
            auto* self = const_cast<ChoiceDelegate*>(this); // Qt's signals of a const editor factory
            emit self->commitData(box);
            emit self->closeEditor(box);
        });
        return box;
    }
    void setEditorData(QWidget* editor, const QModelIndex& index) const override {
        if (auto* box = qobject_cast<QComboBox*>(editor))
            return box->setCurrentIndex(std::max(0, box->findText(index.data(Qt::EditRole).toString())));
        QStyledItemDelegate::setEditorData(editor, index);
    }
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
        if (auto* box = qobject_cast<QComboBox*>(editor)) {
            model->setData(index, box->currentText(), Qt::EditRole);
            return;
        }
        QStyledItemDelegate::setModelData(editor, model, index);
    }

private:
    UnitsModel* m_model;
};

} // namespace

UnitsView::UnitsView(Selection* selection, QWidget* parent)
    : View(selection, parent),
      m_model(new UnitsModel(this)),
      m_table(new QTableView(this)),
      m_up(new QAction(tr("up"), this)),
      m_down(new QAction(tr("down"), this)),
      m_add(new QAction(tr("add…"), this)),
      m_remove(new QAction(tr("remove"), this)) {
    setObjectName("unitsView");
    m_table->setObjectName("unitsTable");
    m_table->setAccessibleName(tr("Units of the sequence, youngest first"));
    m_table->setModel(m_model);
    m_table->setItemDelegate(new ChoiceDelegate(m_model));
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setDragDropMode(QAbstractItemView::InternalMove);
    m_table->setDragDropOverwriteMode(false);
    m_table->setDropIndicatorShown(true);
    m_table->setShowGrid(false);
    m_table->setAlternatingRowColors(true);
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    m_table->horizontalHeader()->setHighlightSections(false);
    static constexpr int kWide[] = {62, 120, 62, 74, 74, 60, 90, 112, 86, 72};
    static_assert(std::size(kWide) == UnitsModel::kFixedColumns);
    const auto fitHeaders = [this] { // a column is at least as wide as its name
        auto* header = m_table->horizontalHeader();
        for (int c = 0; c < m_model->columnCount(); ++c)
            m_table->setColumnWidth(
                c, std::max({c < UnitsModel::kFixedColumns ? kWide[c] : 0, m_table->columnWidth(c), header->sectionSizeHint(c)}));
    };
    for (int c = 0; c < UnitsModel::kFixedColumns; ++c) m_table->setColumnWidth(c, kWide[c]);
    fitHeaders();
    connect(m_model, &QAbstractItemModel::modelReset, this, fitHeaders);
    connect(m_model, &QAbstractItemModel::columnsInserted, this, fitHeaders);
    m_table->horizontalHeader()->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(m_table->horizontalHeader(), &QWidget::customContextMenuRequested, this, &UnitsView::offerValues);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_table);
    setFocusProxy(m_table);
    m_up->setToolTip(tr("Move the chosen unit one place younger (Ctrl+Shift+Up)"));
    m_down->setToolTip(tr("Move the chosen unit one place older (Ctrl+Shift+Down)"));
    m_up->setShortcut(QKeySequence("Ctrl+Shift+Up"));
    m_down->setShortcut(QKeySequence("Ctrl+Shift+Down"));
    m_add->setToolTip(tr("Put a new unit over the chosen one. Right-click the headings for a new value of units"));
    m_remove->setToolTip(tr("Take the chosen unit out of the sequence"));
    for (auto* a : {m_up, m_down}) a->setShortcutContext(Qt::WidgetWithChildrenShortcut), addAction(a);
    connect(m_up, &QAction::triggered, this, [this] { move(-1); });
    connect(m_down, &QAction::triggered, this, [this] { move(1); });
    connect(m_add, &QAction::triggered, this, &UnitsView::addUnit);
    connect(m_remove, &QAction::triggered, this, [this] {
        if (const auto u = current())
            emit editMade(
                [code = products()->project.sequence->units[*u].code](const Project& p) { return removeUnit(p, code); });
    });
    connect(m_model, &UnitsModel::editMade, this, &View::editMade, Qt::QueuedConnection); // the editor closes first
    connect(m_model, &UnitsModel::failed, this, &View::failed);
    connect(m_table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
        if (!m_following && now.isValid())
            this->selection()->setUnit(m_model->index(now.row(), UnitsModel::Code).data().toString());
    });
    connect(selection, &Selection::unitChanged, this, [this] {
        const auto u = products() ? products()->project.sequence->index(this->selection()->unit().toStdString()) : std::nullopt;
        m_following = true;
        if (u && m_table->currentIndex().row() != int(*u)) m_table->selectRow(int(*u));
        m_following = false;
    });
}

QString UnitsView::summary() const {
    if (!products()) return {};
    return tr("%1, youngest first · drag rows to put them in order").arg(products()->project.sequence->units.size());
}

std::optional<std::size_t> UnitsView::current() const {
    const int row = m_table->currentIndex().row();
    return products() && row >= 0 && row < m_model->rowCount() ? std::optional(std::size_t(row)) : std::nullopt;
}

void UnitsView::productsChanged() {
    if (products()->project.sequence == m_shown) return m_model->setProducts(products());
    m_shown = products()->project.sequence;
    const int column = std::max(0, m_table->currentIndex().column());
    m_following = true;
    m_model->setProducts(products());
    if (const auto u = products()->project.sequence->index(selection()->unit().toStdString()))
        m_table->setCurrentIndex(m_model->index(int(*u), column));
    m_following = false;
}

void UnitsView::move(int by) {
    const auto u = current();
    const int to = u ? int(*u) + by : -1;
    if (to < 0 || to >= m_model->rowCount()) return;
    const auto code = products()->project.sequence->units[*u].code;
    selection()->setUnit(QString::fromStdString(code));
    emit editMade([code, to](const Project& p) { return moveUnit(p, code, std::size_t(to)); });
}

void UnitsView::offerValues(const QPoint& at) {
    auto* menu = new QMenu(this);
    menu->setObjectName("unitValueMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Add a value of units…"), this, &UnitsView::addValue);
    const auto* kind = m_model->valueKind(m_table->horizontalHeader()->logicalIndexAt(at));
    const bool own = kind && std::ranges::count(standardUnitValues(), *kind) == 0;
    if (own)
        menu->addAction(tr("Remove %1").arg(QString::fromStdString(kind->words)), this, [this, key = kind->key] {
            emit editMade([key](const Project& p) { return removeUnitValueKind(p, key); });
        });
    menu->popup(m_table->horizontalHeader()->mapToGlobal(at));
}

void UnitsView::addValue() {
    bool ok = false;
    const auto typed = QInputDialog::getText(this, tr("New value of units"),
                                             tr("Name, and its unit after a comma (Cohesion, kPa)"), QLineEdit::Normal, {}, &ok);
    if (!ok) return;
    emit editMade([name = typed.section(',', 0, 0).trimmed().toStdString(), unit = typed.section(',', 1).trimmed().toStdString()](
                      const Project& p) { return addUnitValueKind(p, name, unit); });
}

void UnitsView::addUnit() {
    if (!products()) return;
    bool ok = false;
    const auto code = QInputDialog::getText(this, tr("New unit"), tr("Code of the new unit"), QLineEdit::Normal, {}, &ok);
    if (!ok) return;
    Unit u;
    u.code = code.trimmed().toStdString();
    u.recipe.automatic = true;
    emit editMade([u, at = current().value_or(0)](const Project& p) { return fox::addUnit(p, u, at); });
    selection()->setUnit(code.trimmed());
}

} // namespace fox::app
