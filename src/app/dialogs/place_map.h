#pragma once
#include "base/point.h"

#include <QWidget>
#include <vector>

namespace fox::app {

/// A small map for the import: what is in the file, over what the project has already.
class PlaceMap : public QWidget {
    Q_OBJECT
public:
    explicit PlaceMap(QWidget* parent) : QWidget(parent) { setMinimumSize(260, 170); }
    void setPlaces(std::vector<Point2> there, std::vector<Point2> coming, bool asDots);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<Point2> m_there, m_coming;
    bool m_dots = false; ///< survey points, else holes
};

} // namespace fox::app
