#include "dialogs/import_holes.h"

#include "style/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QToolButton>
#include <map>

namespace fox::app {

ImportHoles::ImportHoles(QWidget* parent)
    : QWidget(parent), m_title(new QLabel(this)), m_list(new QListWidget(this)), m_which(new QToolButton(this)) {
    m_list->setObjectName("importChanges");
    m_list->setAccessibleName(tr("What importing would change, hole by hole"));
    m_list->setToolTip(tr("Holes that are unticked stay in the file for now; they can be added later from the project"));
    m_which->setObjectName("tickHoles");
    m_which->setText(tr("Tick"));
    m_which->setToolTip(tr("Tick holes by their kind or by where they are"));
    m_which->setPopupMode(QToolButton::InstantPopup);
    m_title->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    auto* head = new QHBoxLayout;
    head->addWidget(m_title, 1);
    head->addWidget(m_which);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addLayout(head);
    layout->addWidget(m_list, 1);
    connect(m_list, &QListWidget::itemChanged, this, &ImportHoles::tell);
}

void ImportHoles::show(const ImportEntry& entry, const Project& project) {
    m_read = entry.read;
    const auto& changes = m_read->changes;
    const bool anyNew = std::ranges::count(changes, HoleChange::Kind::New, &HoleChange::kind) > 0;
    setVisible(!changes.empty() && (anyNew || !m_read->there));
    m_filling = true;
    m_list->clear();
    using Kind = HoleChange::Kind;
    m_title->setText(tr("Holes: %1").arg(inWords(changes).join(", ")));
    for (const auto kind : {Kind::Changed, Kind::Gone, Kind::New, Kind::Same})
        for (const auto& c : changes)
            if (c.kind == kind) addItem(c, !entry.choices.holesOut.contains(c.hole));
    m_which->setVisible(std::ranges::count(changes, Kind::New, &HoleChange::kind) > 1);
    buildMenu(project);
    m_filling = false;
}

void ImportHoles::addItem(const HoleChange& change, bool ticked) {
    QStringList facts;
    if (!change.written.empty()) facts << tr("%1 in the file").arg(qt(change.written));
    for (const auto& f : change.facts) facts << qt(f);
    static const char* kWords[] = {"new", "changed", "the same", "no longer in the file"};
    auto* item = new QListWidgetItem(
        tr("%1: %2%3").arg(qt(change.hole), tr(kWords[int(change.kind)]), facts.isEmpty() ? QString() : ", " + facts.join("; ")),
        m_list);
    item->setData(Qt::UserRole, qt(change.hole));
    if (change.kind == HoleChange::Kind::New) item->setCheckState(ticked ? Qt::Checked : Qt::Unchecked);
}

void ImportHoles::buildMenu(const Project& project) {
    auto* menu = new QMenu(m_which);
    menu->addAction(tr("All"), this, [this] { tick([](const Hole&) { return true; }); });
    menu->addAction(tr("None"), this, [this] { tick([](const Hole&) { return false; }); });
    std::map<std::string, int> kinds;
    for (const auto& h : m_read->understood.holes) ++kinds[h.type];
    if (kinds.size() > 1) {
        menu->addSection(tr("Of the kind"));
        for (const auto& [kind, n] : kinds)
            menu->addAction(tr("%1 (%2)").arg(kind.empty() ? tr("not set") : qt(kind)).arg(n), this,
                            [this, kind = kind] { tick([&](const Hole& h) { return h.type == kind; }); });
    }
    menu->addSection(tr("Inside"));
    const auto inside = [&](const QString& words, const Area& area) {
        menu->addAction(words, this, [this, area] {
            tick([&](const Hole& h) {
                const auto p = h.place();
                return p && area.contains(*p);
            });
        });
    };
    if (!project.site->limit.empty()) inside(tr("the site limit"), Area(project.site->limit));
    if (const auto frame = frameOf(project)) {
        const auto& f = *frame;
        inside(tr("the model's extent"), Area(Polygon2{{f.xmin, f.ymin}, {f.xmax, f.ymin}, {f.xmax, f.ymax}, {f.xmin, f.ymax}}));
    }
    for (const auto& o : project.ground->outlines) inside(qt(o.name), o.area());
    if (auto* before = m_which->menu()) before->deleteLater();
    m_which->setMenu(menu);
}

void ImportHoles::tick(const std::function<bool(const Hole&)>& which) {
    std::map<std::string, bool> ticked;
    for (const auto& h : m_read->understood.holes) ticked[h.id] = which(h);
    m_filling = true;
    for (int i = 0; i < m_list->count(); ++i) {
        auto* item = m_list->item(i);
        if (item->data(Qt::CheckStateRole).isNull()) continue;
        item->setCheckState(ticked[item->data(Qt::UserRole).toString().toStdString()] ? Qt::Checked : Qt::Unchecked);
    }
    m_filling = false;
    tell();
}

void ImportHoles::tell() {
    if (m_filling) return;
    std::set<std::string> out;
    for (int i = 0; i < m_list->count(); ++i) {
        const auto* item = m_list->item(i);
        if (!item->data(Qt::CheckStateRole).isNull() && item->checkState() == Qt::Unchecked)
            out.insert(item->data(Qt::UserRole).toString().toStdString());
    }
    emit leftOutChanged(out);
}

} // namespace fox::app
