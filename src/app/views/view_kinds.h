#pragma once
#include "views/view.h"

namespace fox::app {

enum class ViewKind {
    Plan,
    Section,
    Log,
    Table,
    Block,
    Correlation,
    Units,
    Chart,
    Page,
    Layers,
    GridSection,
    BlockChart,
    Report
};
inline constexpr ViewKind kViewKinds[] = {ViewKind::Plan,  ViewKind::Section,     ViewKind::Log,         ViewKind::Table,
                                          ViewKind::Block, ViewKind::Correlation, ViewKind::Units,       ViewKind::Chart,
                                          ViewKind::Page,  ViewKind::Layers,      ViewKind::GridSection, ViewKind::BlockChart,
                                          ViewKind::Report};
QString name(ViewKind);
View* makeView(ViewKind, Selection*, QWidget* parent);

} // namespace fox::app
