#pragma once
#include "base/finding.h"

#include <QBrush>
#include <QWidget>
#include <optional>

namespace fox::app {

/// The stages of the work drawn as the layers of a borehole.
class StageColumn : public QWidget {
    Q_OBJECT
public:
    struct Band {
        QString name;
        QColor colour;
        QBrush hatch;
        QString figure;
        Severity state = Severity::Note; ///< a note is fine
        int count = 0;                   ///< of findings of that severity
    };
    explicit StageColumn(std::vector<Band>, QWidget* parent = nullptr);
    void setFigure(int stage, const QString& figure, Severity state, int count);
    int current() const { return m_current; }
    QSize sizeHint() const override { return {92, 600}; }
    QRectF bandRect(int stage) const;

public slots:
    void setCurrent(int);

signals:
    void chosen(int stage);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool event(QEvent*) override; ///< tooltips

private:
    std::vector<Band> m_bands;
    int m_current = 0;
};

} // namespace fox::app
