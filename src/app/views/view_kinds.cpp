#include "views/view_kinds.h"

#include "views/block_chart_view.h"
#include "views/block_view.h"
#include "views/chart_view.h"
#include "views/correlation_view.h"
#include "views/grid_section_view.h"
#include "views/layers_view.h"
#include "views/log_view.h"
#include "views/page_view.h"
#include "views/plan_view.h"
#include "views/report_view.h"
#include "views/section_view.h"
#include "views/table_view.h"
#include "views/units_view.h"

#include <QCoreApplication>

namespace fox::app {

QString name(ViewKind kind) {
    static const char* kNames[] = {"Plan",  "Section", "Log",    "Table",        "Block view",  "Correlation", "Units",
                                   "Chart", "Page",    "Layers", "Grid section", "Block chart", "Report"};
    return QCoreApplication::translate("fox::app::View", kNames[int(kind)]);
}

View* makeView(ViewKind kind, Selection* selection, QWidget* parent) {
    switch (kind) {
    case ViewKind::Plan: return new PlanView(selection, parent);
    case ViewKind::Section: return new SectionView(selection, parent);
    case ViewKind::Log: return new LogView(selection, parent);
    case ViewKind::Table: return new TableView(selection, parent);
    case ViewKind::Correlation: return new CorrelationView(selection, parent);
    case ViewKind::Units: return new UnitsView(selection, parent);
    case ViewKind::Chart: return new ChartView(selection, parent);
    case ViewKind::Report: return new ReportView(selection, parent);
    case ViewKind::Page: return new PageView(selection, parent);
    case ViewKind::Layers: return new LayersView(selection, parent);
    case ViewKind::BlockChart: return new BlockChartView(selection, parent);
    case ViewKind::GridSection: return new GridSectionView(selection, parent);
    case ViewKind::Block: break;
    }
    return new BlockView(selection, parent);
}

} // namespace fox::app
