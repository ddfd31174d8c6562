#include "views/along_menu.h"

#include "products/products.h"
#include "sequence/description.h"
#include "style/words.h"

#include <QInputDialog>
#include <QMenu>

namespace fox::app {

paper::ValueColours alongColours(const AlongValues& values, const AlongLook& look) {
    const auto range = look.range.value_or(std::pair(values.low, values.high));
    return {paper::ColourScale::DeepLight, range.first, range.second, {}};
}

void fillAlongMenu(QMenu& menu, Selection& selection, const ProductSet& products, QWidget* parent) {
    const auto now = selection.along();
    const auto add = [&](QMenu& to, const QString& words, bool on, const std::function<void(AlongLook&)>& change) {
        auto* a = to.addAction(words, &menu, [&selection, change] {
            auto next = selection.along();
            change(next);
            selection.setAlong(next);
        });
        a->setCheckable(true);
        a->setChecked(on);
        return a;
    };
    const auto choose = [&](QMenu& to, const QString& words, AlongChoice choice) {
        add(to, words, now.choice == choice, [choice](AlongLook& l) {
            l.choice = choice;
            l.range.reset(), l.hiddenCodes.clear();
        });
    };
    using Kind = AlongChoice::Kind;
    choose(menu, Selection::tr("Unit"), {});
    auto& columns = *menu.addMenu(Selection::tr("Codes of a column"));
    for (const auto& h : unitHeadings(*products.project.holes)) choose(columns, qt(h.heading), {Kind::Column, h.heading});
    auto& values = *menu.addMenu(Selection::tr("Test, curve or sounding"));
    for (const auto& q : testQuantities(*products.project.holes))
        choose(values, q.unit.empty() ? qt(q.name) : Selection::tr("%1, %2").arg(qt(q.name), qt(q.unit)),
               {Kind::Quantity, q.name});
    columns.menuAction()->setVisible(!columns.isEmpty());
    values.menuAction()->setVisible(!values.isEmpty());
    menu.addSeparator();
    auto* graph = add(menu, Selection::tr("Graph beside the hole"), now.graph, [](AlongLook& l) { l.graph = !l.graph; });
    graph->setEnabled(now.choice.kind == Kind::Quantity);
    auto* range = menu.addAction(Selection::tr("Range…"), &menu, [&selection, parent] {
        const auto shown = selection.along().range;
        bool ok = false;
        const auto typed = QInputDialog::getText(
            parent, Selection::tr("Range of the colours"), Selection::tr("From and to, apart by a blank; empty: of all values"),
            QLineEdit::Normal, shown ? QString("%1 %2").arg(shown->first).arg(shown->second) : QString(), &ok);
        if (!ok) return;
        auto look = selection.along();
        const auto limits = paper::limitsWritten(typed.toStdString());
        look.range = limits.size() == 2 ? std::optional(std::pair(limits[0], limits[1])) : std::nullopt;
        selection.setAlong(look);
    });
    range->setEnabled(now.choice.kind == Kind::Quantity);
    add(menu, Selection::tr("Samples and water strikes"), now.samples, [](AlongLook& l) { l.samples = !l.samples; });
    auto& width = *menu.addMenu(Selection::tr("Width of sticks"));
    for (const auto& [times, words] : {std::pair{0.5, Selection::tr("thin")},
                                       {1.0, Selection::tr("usual")},
                                       {1.6, Selection::tr("wide")},
                                       {2.5, Selection::tr("very wide")}})
        add(width, words, now.stickWidth == times, [t = times](AlongLook& l) { l.stickWidth = t; });
}

} // namespace fox::app
