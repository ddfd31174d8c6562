#include "views/hole_menu.h"

#include "project/named_surface_edits.h"
#include "sequence/hole_choice.h"
#include "style/words.h"
#include "views/hole_ticks.h"

#include <QInputDialog>
#include <QMenu>

namespace fox::app {

namespace {

using Names = std::vector<std::string>;

/// One entry a choice, with how many holes it has; a choice without holes is not offered.
class HoleMenu {
public:
    HoleMenu(Selection& selection, const ProductSet& products) : m_selection(selection), m_products(products) {}

    void add(QMenu& to, const QString& words, Names names) {
        if (names.empty()) return;
        auto* a = to.addAction(HoleMenu::tr("%1 (%2)").arg(words).arg(names.size()), &to,
                               [selection = &m_selection, names] { selection->showHoles(names); });
        a->setCheckable(true);
        a->setChecked(m_selection.shownHoles() && *m_selection.shownHoles() == std::set(names.begin(), names.end()));
    }

    void addChoices(QMenu& menu) {
        const auto& p = m_products.project;
        auto& kinds = *menu.addMenu(tr("Of a kind"));
        for (const auto kind : {HoleKind::Drilled, HoleKind::Dug, HoleKind::Pushed, HoleKind::Other})
            add(kinds, QString::fromUtf8(fox::words(kind)), holesOfKind(*p.holes, kind));
        auto& units = *menu.addMenu(tr("With a unit"));
        for (std::size_t u = 0; u < p.sequence->units.size(); ++u)
            add(units, qt(p.sequence->units[u].name), holesWithUnit(*m_products.reading, u));
        auto& tests = *menu.addMenu(tr("With a test or curve"));
        for (const auto& q : testQuantities(*p.holes)) add(tests, qt(q.name), holesWithTest(q, *p.holes, *m_products.reading));
        if (const auto* line = m_selection.sectionOf(p)) {
            auto& near = *menu.addMenu(tr("Near section %1").arg(qt(line->name)));
            for (const double reach : {line->reach, 50.0, 100.0, 200.0})
                add(near, tr("within %1 m").arg(reach), holesNear(*p.holes, line->line, reach));
        }
        if (!p.ground->outlines.empty()) {
            auto& outlines = *menu.addMenu(tr("In an outline"));
            for (const auto& o : p.ground->outlines) add(outlines, qt(o.name), holesInside(*p.holes, o.area()));
        }
        for (auto* sub : menu.findChildren<QMenu*>(Qt::FindDirectChildrenOnly)) sub->menuAction()->setVisible(!sub->isEmpty());
    }

    static QString tr(const char* words) { return Selection::tr(words); }

private:
    Selection& m_selection;
    const ProductSet& m_products;
};

} // namespace

QString shownInWords(const Selection& selection, const ProductSet* products) {
    if (!selection.shownHoles() || !products) return {};
    const auto names = displayNames(*products->project.holes);
    const auto shown = std::ranges::count_if(names, [&](const auto& n) { return selection.isShown(n); });
    return Selection::tr("%1 of %2").arg(shown).arg(counted(qint64(names.size()), "hole"));
}

void fillHoleMenu(QMenu& menu, Selection& selection, const ProductSet& products, QWidget* parent,
                  const HoleMenuActions& actions) {
    HoleMenu entries(selection, products);
    auto* all = menu.addAction(Selection::tr("All holes"), &menu, [&selection] { selection.setShownHoles({}); });
    all->setCheckable(true);
    all->setChecked(!selection.shownHoles());
    entries.addChoices(menu);
    if (actions.drawArea) menu.addAction(Selection::tr("In an area that is drawn"), &menu, actions.drawArea);
    menu.addAction(Selection::tr("Tick holes…"), &menu, [&selection, &products, parent] {
        auto* ticks = new HoleTicks(displayNames(*products.project.holes), &selection, parent);
        ticks->setAttribute(Qt::WA_DeleteOnClose);
        ticks->show();
    });
    menu.addSeparator();
    for (const auto& set : *products.project.holeSets) entries.add(menu, qt(set.name), set.holes);
    if (!products.project.holeSets->empty()) {
        auto* remove = menu.addMenu(Selection::tr("Remove a set"));
        for (const auto& set : *products.project.holeSets)
            remove->addAction(qt(set.name), remove, [actions, name = set.name] {
                actions.edit([name](const Project& p) { return removeHoleSet(p, name); });
            });
    }
    auto* keep = menu.addAction(Selection::tr("Keep these holes as a set…"), &menu, [&selection, parent, actions] {
        const auto name = QInputDialog::getText(parent, Selection::tr("Keep these holes as a set"), Selection::tr("Name"));
        if (name.trimmed().isEmpty() || !selection.shownHoles()) return;
        actions.edit([name = name.toStdString(), holes = Names(selection.shownHoles()->begin(), selection.shownHoles()->end())](
                         const Project& p) { return keepHoleSet(p, name, holes); });
    });
    keep->setEnabled(selection.shownHoles() && !selection.shownHoles()->empty());
}

} // namespace fox::app
