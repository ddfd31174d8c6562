#include "views/number_box.h"

#include "base/text.h"

namespace fox::app {

std::optional<double> typedNumber(QString text) {
    text.remove(QChar(0x2009)).remove(QChar(0x00a0)).remove(' ').replace(',', '.');
    return parseNumber(text.toStdString());
}

QValidator::State NumberBox::validate(QString& input, int& at) const {
    const auto point = locale().decimalPoint();
    const auto number = input.mid(prefix().size(), input.size() - prefix().size() - suffix().size());
    auto written = number;
    written.replace(',', point).replace('.', point);
    if (written != number) input.replace(prefix().size(), number.size(), written);
    return QDoubleSpinBox::validate(input, at);
}

NumberBox* makeNumberBox(double value, double least, double most, int decimals, const QString& suffix,
                         const std::function<void(double)>& changed) {
    auto* box = new NumberBox;
    box->setRange(least, most);
    box->setDecimals(decimals);
    box->setSuffix(suffix);
    box->setValue(value);
    box->setKeyboardTracking(false);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, changed);
    return box;
}

} // namespace fox::app
