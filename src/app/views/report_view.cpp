#include "views/report_view.h"

#include "project/sheet_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/kept_templates.h"
#include "views/sheet_choice.h"

#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QShortcut>
#include <QVBoxLayout>

namespace fox::app {

ReportView::ReportView(Selection* s, QWidget* parent)
    : View(s, parent),
      m_add(new QAction(tr("add…"), this)),
      m_remove(new QAction(tr("remove"), this)),
      m_list(new QListWidget(this)),
      m_filling(this, tr("Filling the report's sheets")) {
    setObjectName("reportView");
    m_add->setToolTip(tr("Add a sheet to the report: a template filled with all holes, sections or units"));
    m_remove->setToolTip(tr("Remove the chosen sheet from the report (Delete)"));
    m_list->setObjectName("reportList");
    m_list->setAccessibleName(tr("Sheets of the report, in their order"));
    m_list->setDragDropMode(QAbstractItemView::InternalMove);
    m_list->setSpacing(2);
    m_list->setWordWrap(true);
    m_empty = new QLabel(tr("No sheets yet. Press add… for the usual ones, or for a template of your choice; what is here goes "
                            "into one PDF."),
                         this);
    m_empty->setWordWrap(true);
    m_empty->setProperty("muted", true);
    m_empty->setMargin(14);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_empty);
    layout->addWidget(m_list, 1);
    connect(m_add, &QAction::triggered, this, &ReportView::chooseWhatToAdd);
    connect(m_remove, &QAction::triggered, this, &ReportView::removeChosen);
    auto* gone = new QShortcut(QKeySequence::Delete, m_list);
    gone->setContext(Qt::WidgetShortcut);
    connect(gone, &QShortcut::activated, this, &ReportView::removeChosen);
    connect(m_list, &QListWidget::currentRowChanged, this, [this] {
        if (!m_following) selection()->setReportSheet(chosen());
    });
    connect(m_list, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        if (m_following) return;
        const auto name = item->data(Qt::UserRole).toString().toStdString();
        const bool on = item->checkState() == Qt::Checked;
        emit editMade([name, on](const Project& p) {
            return changeSheet(
                p, name, [on](ReportEntry& sheet) { sheet.isOut = on; }, on ? "goes out" : "stays in");
        });
    });
    connect(m_list->model(), &QAbstractItemModel::rowsMoved, this,
            [this](const QModelIndex&, int from, int, const QModelIndex&, int to) { moved(from, to > from ? to - 1 : to); });
    connect(s, &Selection::reportSheetChanged, this, &ReportView::showSheets);
}

QString ReportView::summary() const {
    if (!m_shown || m_shown->empty()) return {};
    std::size_t pages = 0, notes = 0;
    if (m_filled)
        for (const auto& f : *m_filled) pages += f.firstPage > 0 ? f.pages : 0, notes += f.notes.size();
    auto words = m_filled ? counted(qint64(pages), "page") : tr("counting pages…");
    if (notes > 0) words += tr(" · %1").arg(counted(qint64(notes), "note"));
    return words;
}

std::string ReportView::chosen() const {
    const auto* item = m_list->currentItem();
    return item ? item->data(Qt::UserRole).toString().toStdString() : std::string();
}

void ReportView::productsChanged() {
    showSheets();
    if (!products() || products()->project.sheets->empty()) return m_filling.stop();
    m_filling.start(
        [products = products(), date = today().toStdString()](const Progress& progress) {
            return std::make_shared<const Filled>(fillReport(*products, date, progress));
        },
        [this](std::shared_ptr<const Filled> filled) {
            m_filled = std::move(filled);
            tellNumbers();
            showSheets();
            emit summaryChanged();
        },
        [this](const QString& why) {
            if (!why.isEmpty()) emit failed(why);
        });
}

/// So that a page shows the number that it has in the report.
void ReportView::tellNumbers() {
    auto numbers = std::make_shared<Selection::ReportNumbers>();
    for (const auto& sheet : *m_filled) {
        if (sheet.firstPage == 0) continue;
        auto next = sheet.firstPage;
        if (sheet.pages > 0) numbers->listed.emplace_back(sheet.name, next);
        for (const auto& f : sheet.filled) {
            numbers->first[{sheet.name, f.item}] = next;
            next += f.pages.size();
        }
        numbers->pages = std::max(numbers->pages, next - 1);
    }
    selection()->setReportNumbers(numbers);
}

/// "7  Borehole log", and under it what it is filled with or what is wrong with it.
void ReportView::showWords(QListWidgetItem* item, std::size_t at) {
    const auto& sheet = (*m_shown)[at];
    const FilledReportSheet* filled = nullptr;
    if (m_filled && at < m_filled->size() && (*m_filled)[at].name == sheet.name) filled = &(*m_filled)[at];
    const std::string of = itemOf(sheet.layout.kind);
    QStringList second;
    if (filled && !of.empty()) second << counted(qint64(filled->filled.size()), of.c_str());
    if (filled) second << counted(qint64(filled->pages), "page");
    if (filled && filled->filled.size() == 1 && filled->filled[0].scale > 0)
        second << QString("1:%1").arg(filled->filled[0].scale, 0, 'g', 6);
    const bool needsWord = filled && !filled->notes.empty();
    item->setText(QString("%1   %2\n%3")
                      .arg(at + 1)
                      .arg(qt(sheet.name), needsWord ? qt(filled->notes.front()) : second.join(QString::fromUtf8(" · "))));
    QStringList tip;
    if (filled)
        for (const auto& n : filled->notes) tip << qt(n);
    item->setToolTip(tip.join('\n'));
    item->setForeground(needsWord ? colour::amberText : sheet.isOut ? colour::ink : colour::muted);
}

void ReportView::showSheets() {
    m_following = true;
    m_shown = products() ? products()->project.sheets : nullptr;
    const auto count = m_shown ? int(m_shown->size()) : 0;
    while (m_list->count() > count) delete m_list->takeItem(m_list->count() - 1);
    while (m_list->count() < count) m_list->addItem(new QListWidgetItem);
    int row = -1;
    for (int i = 0; i < count; ++i) {
        auto* item = m_list->item(i);
        const auto& sheet = (*m_shown)[std::size_t(i)];
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable | Qt::ItemIsDragEnabled);
        item->setData(Qt::UserRole, qt(sheet.name));
        item->setCheckState(sheet.isOut ? Qt::Checked : Qt::Unchecked);
        showWords(item, std::size_t(i));
        if (sheet.name == selection()->reportSheet()) row = i;
    }
    m_list->setCurrentRow(row);
    m_remove->setEnabled(row >= 0);
    m_empty->setVisible(count == 0);
    m_list->setVisible(count > 0);
    m_following = false;
    emit summaryChanged();
}

void ReportView::moved(int from, int to) {
    if (m_following || !m_shown || from < 0 || std::size_t(from) >= m_shown->size()) return;
    emit editMade(
        [name = (*m_shown)[std::size_t(from)].name, to](const Project& p) { return moveSheet(p, name, std::size_t(to)); });
}

void ReportView::add(const SheetTemplate& t) {
    if (!products()) return;
    const auto behind = chosen();
    const auto made = addSheet(products()->project, reportEntry(t), behind);
    // the name that it gets, so that it is chosen once it is there
    for (const auto& s : *made.project.sheets)
        if (std::ranges::count(*products()->project.sheets, s.name, &ReportEntry::name) == 0) selection()->setReportSheet(s.name);
    emit editMade([t, behind](const Project& p) { return addSheet(p, reportEntry(t), behind); });
}

void ReportView::chooseWhatToAdd() {
    auto* menu = new QMenu(this);
    menu->setObjectName("addSheetMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("The usual sheets"), this, [this] { emit editMade([](const Project& p) { return addUsualSheets(p); }); });
    menu->addSeparator();
    for (const auto& t : shippedTemplates()) menu->addAction(begun(t.name), this, [this, &t] { add(t); });
    if (const auto kept = keptTemplates(); !kept.empty()) {
        menu->addSeparator();
        for (const auto& t : kept) menu->addAction(begun(t.name), this, [this, t] { add(t); });
    }
    if (const auto own = selection()->sheetTemplate(); own && std::ranges::count(shippedTemplates(), *own) == 0)
        menu->addAction(begun(own->name), this, [this, own] { add(*own); });
    menu->popup(QCursor::pos());
}

void ReportView::removeChosen() {
    const auto name = chosen();
    if (name.empty()) return;
    emit editMade([name](const Project& p) { return removeSheet(p, name); });
}

} // namespace fox::app
