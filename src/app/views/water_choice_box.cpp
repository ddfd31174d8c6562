#include "views/water_choice_box.h"

#include <QComboBox>
#include <QDateEdit>
#include <QHBoxLayout>
#include <QSignalBlocker>

namespace fox::app {

WaterChoiceBox::WaterChoiceBox(const WaterChoice& choice, QWidget* parent)
    : QWidget(parent), m_which(new QComboBox(this)), m_date(new QDateEdit(this)) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    m_which->setObjectName("waterStatistic");
    m_which->setAccessibleName(tr("Reading"));
    m_which->setToolTip(tr("Which reading of each point is taken. Dry ones are no level"));
    using enum WaterStatistic;
    for (const auto s : {Latest, Highest, Lowest, Mean, AtDate}) m_which->addItem(QString::fromUtf8(fox::words(s)), int(s));
    m_date->setObjectName("waterDate");
    m_date->setAccessibleName(tr("Date"));
    m_date->setDisplayFormat("yyyy-MM-dd");
    m_date->setCalendarPopup(true);
    m_date->setKeyboardTracking(false);
    m_date->setToolTip(tr("The last reading of that day; else a straight line between the readings before and after it"));
    line->addWidget(m_which, 1);
    line->addWidget(m_date);
    setChoice(choice);
    connect(m_which, &QComboBox::activated, this, [this] { tell(); });
    connect(m_date, &QDateEdit::dateChanged, this, [this] { tell(); });
}

void WaterChoiceBox::setChoice(const WaterChoice& choice) {
    const QSignalBlocker quiet(m_date);
    m_which->setCurrentIndex(m_which->findData(int(choice.which)));
    const auto date = QDate::fromString(QString::fromStdString(choice.date).left(10), Qt::ISODate);
    m_date->setDate(date.isValid() ? date : QDate::currentDate());
    m_date->setVisible(choice.which == WaterStatistic::AtDate);
}

void WaterChoiceBox::tell() {
    const auto which = WaterStatistic(m_which->currentData().toInt());
    m_date->setVisible(which == WaterStatistic::AtDate);
    WaterChoice choice{which, {}};
    if (which == WaterStatistic::AtDate) choice.date = m_date->date().toString(Qt::ISODate).toStdString();
    emit chosen(choice);
}

std::string usualDate(const Holes& holes) {
    std::vector<double> times;
    for (const auto& series : waterSeries(holes))
        for (const auto& r : series.readings) times.push_back(r.time);
    auto date = QDate::currentDate();
    if (!times.empty()) {
        const auto middle = times.begin() + std::ptrdiff_t(times.size() / 2);
        std::ranges::nth_element(times, middle);
        date = QDateTime::fromSecsSinceEpoch(qint64(*middle), Qt::UTC).date();
    }
    return date.toString(Qt::ISODate).toStdString();
}

} // namespace fox::app
