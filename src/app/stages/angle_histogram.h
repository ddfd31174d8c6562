#pragma once
#include <QWidget>
#include <vector>

namespace fox::app {

/// How many triangles of a mesh have their smallest angle in each stretch of 5 degrees, 0 to 60.
class AngleHistogram : public QWidget {
    Q_OBJECT
public:
    explicit AngleHistogram(const std::vector<double>& degrees, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {240, 64}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<int> m_counts;
};

} // namespace fox::app
