#include "style/words.h"

#include <QCoreApplication>
#include <QLocale>

namespace fox::app {

QString counted(qint64 n, const char* one, const char* many) {
    const auto noun = n == 1 ? QString::fromUtf8(one) : many ? QString::fromUtf8(many) : QString::fromUtf8(one) + "s";
    return QLocale(QLocale::English).toString(n) + " " + QCoreApplication::translate("Counted", noun.toUtf8().constData());
}

QString begun(std::string_view name) {
    auto out = qt(name);
    if (!out.isEmpty()) out[0] = out[0].toUpper();
    return out;
}

} // namespace fox::app
