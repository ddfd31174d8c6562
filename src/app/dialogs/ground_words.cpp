#include "dialogs/ground_words.h"

#include "style/theme.h"
#include "style/words.h"

#include <QCoreApplication>
#include <QStringList>

namespace fox::app {

namespace {
QString tr(const char* words) { return QCoreApplication::translate("fox::app::ImportSheet", words); }
} // namespace

GroundCount countGround(const ImportPreview& u) {
    GroundCount count;
    const auto meet = [&](double z) { count.lowest = std::fmin(count.lowest, z), count.highest = std::fmax(count.highest, z); };
    if (u.survey)
        for (const auto& p : u.survey->points) meet(p.place.z), ++count.codes[p.code];
    if (u.lines) {
        for (const auto& line : u.lines->lines)
            for (const auto& p : line) meet(p.z);
        for (const auto& p : u.lines->points) meet(p.z);
    }
    if (u.grid)
        for (const double v : u.grid->values) meet(v);
    return count;
}

GroundWords groundWords(const ImportPreview& u, const GroundCount& count) {
    GroundWords out;
    if (u.survey) {
        out.what = counted(qint64(u.survey->points.size()), "point");
        out.facts = tr("Survey points: %1").arg(u.survey->points.size());
    } else if (u.lines) {
        QStringList parts;
        if (!u.lines->lines.empty()) parts << counted(qint64(u.lines->lines.size()), "line");
        if (!u.lines->points.empty()) parts << counted(qint64(u.lines->points.size()), "point");
        if (!u.lines->outlines.empty()) parts << counted(qint64(u.lines->outlines.size()), "outline");
        out.anything = !parts.isEmpty();
        out.what = parts.join(", ");
        out.facts = tr("%1: %2; %3 of %4 vertices are kept")
                        .arg(QString::fromStdString(u.file.format), parts.isEmpty() ? tr("nothing") : parts.join(", "))
                        .arg(u.lines->verticesKept)
                        .arg(u.lines->verticesRead);
    } else if (u.grid) {
        const auto& f = u.grid->frame;
        out.what = tr("the grid");
        out.facts = tr("Grid: %1 x %2 cells of %3 m").arg(f.columns()).arg(f.rows()).arg(f.cell, 0, 'g', 5);
    } else if (u.picture) {
        out.what = tr("the picture");
        out.facts = tr("Picture: %1 x %2 pixels").arg(u.picture->width).arg(u.picture->height);
    }
    out.facts +=
        std::isnan(count.lowest) ? QString(".") : tr(", levels from %1 to %2.").arg(metres(count.lowest), metres(count.highest));
    return out;
}

} // namespace fox::app
