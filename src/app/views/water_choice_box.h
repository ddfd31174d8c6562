#pragma once
#include "holes/water_levels.h"

#include <QWidget>

class QComboBox;
class QDateEdit;

namespace fox::app {

/// Which reading of each point of measurement is meant: the latest, highest, lowest, their mean, or that at a date.
class WaterChoiceBox : public QWidget {
    Q_OBJECT
public:
    explicit WaterChoiceBox(const WaterChoice&, QWidget* parent = nullptr);
    /// Without telling anybody.
    void setChoice(const WaterChoice&);

signals:
    void chosen(const fox::WaterChoice&); ///< by the user

private:
    void tell();
    QComboBox* m_which;
    QDateEdit* m_date;
};

/// The day in the middle of the readings, which a date starts from; today if there are none.
std::string usualDate(const Holes&);

} // namespace fox::app
