#include "views/block_words.h"

#include "style/words.h"

namespace fox::app {

QString tonnes(const std::optional<double>& mass) {
    return mass ? QObject::tr("%1 t").arg(*mass, 0, 'f', 0) : QObject::tr("not known");
}

QString wantedInWords(const ExcavationSpec& spec) {
    using Wanted = ExcavationSpec::Wanted;
    switch (spec.wanted) {
    case Wanted::Units: return QObject::tr("all of %1").arg(qt(fmt::format("{}", fmt::join(spec.units, ", "))));
    case Wanted::Blocks:
        return (spec.above ? QObject::tr("blocks of %1 above %2") : QObject::tr("blocks of %1 below %2"))
            .arg(qt(spec.blocks))
            .arg(spec.limit);
    case Wanted::Surface: return QObject::tr("down to %1").arg(qt(std::filesystem::path(spec.surface).filename().string()));
    case Wanted::Line: return QObject::tr("a cutting, %1 m wide").arg(spec.lineWidth);
    case Wanted::Floor: break;
    }
    return QObject::tr("a floor at %1 m").arg(spec.level, 0, 'f', 2);
}

} // namespace fox::app
