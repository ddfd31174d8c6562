#include "dialogs/ground_words.h"

#include "style/theme.h"
#include "style/words.h"

#include <QCoreApplication>
#include <QStringList>
#include <set>

namespace fox::app {

namespace {
QString tr(const char* words) { return QCoreApplication::translate("fox::app::ImportSheet", words); }
} // namespace

GroundCount countGround(const ImportPreview& u) {
    GroundCount count;
    const auto meet = [&](double z) { count.lowest = std::fmin(count.lowest, z), count.highest = std::fmax(count.highest, z); };
    if (u.survey) {
        auto at = count.codes.end(); // the same code comes many times in a row
        for (const auto& p : u.survey->points) {
            meet(p.place.z);
            if (at == count.codes.end() || at->first != p.code) at = count.codes.try_emplace(p.code).first;
            ++at->second;
        }
    }
    if (u.contacts)
        for (const auto& p : u.contacts->points)
            if (p.hole.empty()) meet(p.place.z);
    if (u.values)
        for (const auto& source : u.values->sources)
            for (const auto& p : source.points) meet(p.place.z);
    if (u.lines) {
        for (const auto& line : u.lines->lines)
            for (const auto& p : line) meet(p.z);
        for (const auto& other : u.lines->others)
            for (const auto& line : other.lines)
                for (const auto& p : line) meet(p.z);
        for (const auto& p : u.lines->points) meet(p.place.z);
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
    } else if (u.contacts) {
        std::set<std::string> units;
        for (const auto& p : u.contacts->points) units.insert(p.unit);
        out.what = counted(qint64(u.contacts->points.size()), "contact");
        out.anything = !u.contacts->points.empty();
        out.facts = (u.file.settings.surface == ContactSurface::Base ? tr("%1 on the base of %2") : tr("%1 on the top of %2"))
                        .arg(out.what, counted(qint64(units.size()), "unit"));
    } else if (u.values) {
        std::size_t values = 0;
        QStringList quantities;
        for (const auto& source : u.values->sources) {
            values += source.points.size();
            const auto unit = source.unit.empty() ? QString() : tr(" in %1").arg(QString::fromStdString(source.unit));
            quantities << QString::fromStdString(source.quantity) + unit;
        }
        out.what = counted(qint64(values), "value");
        out.anything = values > 0;
        out.facts = tr("%1 at points in space: %2").arg(out.what, quantities.join(", "));
    } else if (u.lines) {
        QStringList parts;
        auto lines = u.lines->lines.size();
        for (const auto& other : u.lines->others) lines += other.lines.size();
        if (lines > 0) parts << counted(qint64(lines), "line");
        if (!u.lines->points.empty()) parts << counted(qint64(u.lines->points.size()), "point");
        if (!u.lines->outlines.empty()) parts << counted(qint64(u.lines->outlines.size()), "outline");
        out.anything = !parts.isEmpty();
        out.what = parts.join(", ");
        out.facts = tr("%1: %2; %3 of %4 vertices are kept")
                        .arg(u.tables.size() > 1 ? tr("Layers: %1").arg(u.tables.size()) : QString::fromStdString(u.file.format),
                             parts.isEmpty() ? tr("nothing") : parts.join(", "))
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
