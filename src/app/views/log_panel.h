#pragma once
#include "products/products.h"
#include "views/column_panel.h"

#include <QRectF>
#include <QString>

class QPainter;

namespace fox::app {

/// Draws the log of one hole: scale, column, water and installation, tests, words, curves. Knows where depths are.
class LogPanel {
public:
    /// `reading` is how the hole is understood; null if it has no geology.
    struct Source {
        const Hole* hole = nullptr;
        const InterpretedHole* reading = nullptr;
        const Sequence* sequence = nullptr;
        QString name;
        std::vector<ModelStretch> model; ///< what the model has there, drawn beside the log; empty: none
    };
    LogPanel(Source, const QRectF& area, double deepest);

    double yOf(double depth) const;
    double depthAt(double y) const;
    double columnLeft() const { return m_area.left() + kScale; }
    double columnRight() const { return columnLeft() + kColumn; }
    const QRectF& area() const { return m_area; }
    const Source& source() const { return m_source; }
    /// The unit that an interval is read as; null if none.
    const Unit* unitOf(const Interval&) const;

    /// A boundary that is being dragged.
    struct Moved {
        std::size_t interval;
        double depth;
    };
    void paint(QPainter&, const QString& chosenUnit, const std::optional<Moved>&) const;

    static constexpr double kTop = 40, kFoot = 22, kScale = 36, kColumn = 38; ///< pixels

private:
    void paintColumn(QPainter&, const QString& chosenUnit, const std::optional<Moved>&) const;
    void paintModel(QPainter&, double x) const;
    void paintScale(QPainter&) const;
    void paintWater(QPainter&, double x) const;
    void paintSamples(QPainter&, double x) const;
    void paintCores(QPainter&, double x) const;
    void paintWords(QPainter&, double x, double wide) const;
    void paintBlows(QPainter&, double x, double wide) const;
    void paintCurve(QPainter&, const Curve&, double x, double wide, const QColor&) const;
    void paintTrack(QPainter&, double x, double wide, const QString& name, double low, double high,
                    const QString& unit = {}) const;

    Source m_source;
    QRectF m_area;
    double m_deepest;
};

} // namespace fox::app
