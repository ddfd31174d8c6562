#pragma once
#include "ground/compare.h"

#include <QImage>
#include <QWidget>

namespace fox::app {

/// A small map of where one surface lies above another.
class DifferenceMap : public QWidget {
public:
    using QWidget::QWidget;
    void setDifference(const Grid&);
    void clear();
    void setWords(const QString& above, const QString& below); ///< what the two colours mean
    QSize sizeHint() const override { return {420, 300}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QImage m_image;
    double m_most = 0; ///< metres, of either sign
    QString m_above = tr("first higher"), m_below = tr("first lower");
};

/// Two surfaces along a line.
class ProfileChart : public QWidget {
public:
    using QWidget::QWidget;
    void setProfile(const ComparedProfile&, const QString& first, const QString& second);
    QSize sizeHint() const override { return {420, 170}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    ComparedProfile m_profile;
    QString m_names[2];
};

} // namespace fox::app
