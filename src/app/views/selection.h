#pragma once
#include "project/project.h"
#include "views/plan_look.h"

#include <QObject>
#include <QSet>
#include <QString>
#include <algorithm>
#include <memory>

namespace fox::app {

/// What is selected: one for all views. An empty name is none.
class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    QString hole() const { return m_hole; }
    QString hovered() const { return m_hovered; } ///< the hole under the cursor
    QString unit() const { return m_unit; }
    QString trial() const { return m_trial; }               ///< a predicted log; then no hole is selected
    std::optional<Point2> probe() const { return m_probe; } ///< the place under the cursor on a plan or section
    int section() const { return m_section; }
    /// The chosen section line, the nearest there is; null if there is none.
    const SectionLine* sectionOf(const Project& project) const {
        const auto& lines = *project.sections;
        return lines.empty() ? nullptr : &lines[std::size_t(std::clamp(m_section, 0, int(lines.size()) - 1))];
    }
    bool unitHidden(const QString& code) const { return m_hiddenUnits.contains(code); } ///< in 3D
    const PlanLook& planLook() const { return m_planLook; }
    double exaggeration() const { return m_exaggeration; } ///< of sections and 3D, 1 to 20
    /// The variogram of the chosen unit's base while it is being dragged; null at other times.
    const std::shared_ptr<const Variogram>& draggedVariogram() const { return m_dragged; }

public slots:
    void setHole(const QString& name) {
        if (!name.isEmpty()) setTrial({});
        if (m_hole == name) return;
        m_hole = name;
        emit holeChanged();
    }
    void setTrial(const QString& name) {
        if (m_trial == name) return;
        m_trial = name;
        if (!name.isEmpty()) setHole({});
        emit trialChanged();
    }
    void setProbe(std::optional<fox::Point2> place) {
        if (m_probe == place) return;
        m_probe = place;
        emit probeChanged();
    }
    void setHovered(const QString& name) {
        if (m_hovered == name) return;
        m_hovered = name;
        emit hoverChanged();
    }
    void setUnit(const QString& code) {
        if (m_unit == code) return;
        m_unit = code;
        emit unitChanged();
    }
    void setSection(int index) {
        if (m_section == index) return;
        m_section = index;
        emit sectionChanged();
    }
    void setUnitHidden(const QString& code, bool hidden) {
        if (hidden == m_hiddenUnits.contains(code)) return;
        if (hidden)
            m_hiddenUnits.insert(code);
        else
            m_hiddenUnits.remove(code);
        emit unitsShownChanged();
    }
    void setPlanLook(const PlanLook& look) {
        if (m_planLook == look) return;
        m_planLook = look;
        emit planLookChanged();
    }
    void dragVariogram(const fox::Variogram& v) {
        m_dragged = std::make_shared<const Variogram>(v);
        emit variogramDragged();
    }
    void endDrag() {
        if (!m_dragged) return;
        m_dragged.reset();
        emit variogramDragged();
    }
    void setExaggeration(double times) {
        times = std::clamp(times, 1.0, 20.0);
        if (m_exaggeration == times) return;
        m_exaggeration = times;
        emit exaggerationChanged();
    }

signals:
    void holeChanged();
    void trialChanged();
    void probeChanged();
    void hoverChanged();
    void unitChanged();
    void sectionChanged();
    void exaggerationChanged();
    void unitsShownChanged();
    void planLookChanged();
    void variogramDragged();

private:
    QString m_hole, m_hovered, m_unit, m_trial;
    std::optional<Point2> m_probe;
    QSet<QString> m_hiddenUnits;
    PlanLook m_planLook;
    std::shared_ptr<const Variogram> m_dragged;
    int m_section = 0;
    double m_exaggeration = 5;
};

} // namespace fox::app
