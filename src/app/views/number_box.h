#pragma once
#include <QDoubleSpinBox>
#include <functional>
#include <optional>

namespace fox::app {

/// A number as people type it: decimal point or decimal comma, blanks between groups of digits. None if it is anything else.
std::optional<double> typedNumber(QString);

/// A field for a number that takes a decimal comma for what it is, and not for a separator of thousands.
class NumberBox : public QDoubleSpinBox {
    Q_OBJECT
public:
    using QDoubleSpinBox::QDoubleSpinBox;

protected:
    QValidator::State validate(QString& input, int& at) const override;
};

/// One without arrows, which tells of a number once it is typed.
NumberBox* makeNumberBox(double value, double least, double most, int decimals, const QString& suffix,
                         const std::function<void(double)>& changed);

} // namespace fox::app
