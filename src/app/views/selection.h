#pragma once
#include "model/where_to_drill.h"
#include "paper/sheet_template.h"
#include "project/project.h"
#include "project/project_lines.h"
#include "sequence/along_holes.h"
#include "sequence/plane_assignment.h"
#include "views/block_look.h"
#include "views/layer_look.h"
#include "views/plan_look.h"
#include "views/upright_cut.h"

#include <QObject>
#include <QSet>
#include <QString>
#include <algorithm>
#include <memory>
#include <set>

namespace fox::app {

/// What the sticks of holes show in sections and in 3D.
struct AlongLook {
    AlongChoice choice;
    bool graph = false;                             ///< of a quantity, beside the stick
    bool samples = false;                           ///< samples and water that was struck, as signs
    std::optional<std::pair<double, double>> range; ///< of the colours and the graph; none: of all values
    double stickWidth = 1;                          ///< times the usual
    std::set<std::string> hiddenCodes;              ///< of a column: they are not drawn
    bool operator==(const AlongLook&) const = default;
};

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
    /// The plane above which intervals are being assigned; none while nobody is at it.
    const std::optional<PlaneAssignment>& plane() const { return m_plane; }
    /// Places on holes that are clicked for the plane to go through; none while nobody does that.
    const std::optional<std::vector<Point3>>& planePoints() const { return m_planePoints; }
    /// The holes that are looked at, by display name; none: all.
    const std::optional<std::set<std::string>>& shownHoles() const { return m_shownHoles; }
    bool isShown(const std::string& hole) const { return !m_shownHoles || m_shownHoles->contains(hole); }
    /// Of the page that is looked at; null: the first that comes with the program.
    const std::shared_ptr<const SheetTemplate>& sheetTemplate() const { return m_sheetTemplate; }
    /// The sheet of the project's report that is looked at, by name; empty: a template by itself is.
    const std::string& reportSheet() const { return m_reportSheet; }
    /// Where the report's sheets stand in it; null: not counted yet.
    struct ReportNumbers {
        std::map<std::pair<std::string, std::string>, std::size_t> first; ///< page of a sheet's item
        std::size_t pages = 0;
        std::vector<std::pair<std::string, std::size_t>> listed; ///< sheets and their first pages
        bool operator==(const ReportNumbers&) const = default;
    };
    const std::shared_ptr<const ReportNumbers>& reportNumbers() const { return m_reportNumbers; }
    std::optional<std::size_t> sheetElement() const { return m_sheetElement; } ///< of its layout; none is chosen
    std::size_t sheetColumn() const { return m_sheetColumn; } ///< of a log, whose settings are shown; may be past the last
    const LayerLook& layerLook() const { return m_layerLook; }
    const BlockLook& blockLook() const { return m_blockLook; }
    const AlongLook& along() const { return m_along; }
    /// Upright planes that cut the block open.
    const std::vector<UprightCut>& cuts() const { return m_cuts; }
    /// The line that is being changed on the plan; none.
    const std::optional<ProjectLine>& line() const { return m_line; }
    const std::vector<DrillPlace>& drillPlaces() const { return m_drillPlaces; } ///< ranked for the next hole, the best first
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
    void setPlane(const std::optional<fox::PlaneAssignment>& plane) {
        if (m_plane == plane) return;
        m_plane = plane;
        if (!plane) m_planePoints.reset();
        emit planeChanged();
    }
    void setShownHoles(const std::optional<std::set<std::string>>& holes) {
        if (m_shownHoles == holes) return;
        m_shownHoles = holes;
        emit shownHolesChanged();
    }
    void showHoles(const std::vector<std::string>& holes) { setShownHoles(std::set(holes.begin(), holes.end())); }
    void setSheetTemplate(const std::shared_ptr<const fox::SheetTemplate>& t) {
        if (m_sheetTemplate == t) return;
        m_sheetTemplate = t;
        emit sheetTemplateChanged();
    }
    void setReportSheet(const std::string& name) {
        if (m_reportSheet == name) return;
        m_reportSheet = name;
        emit reportSheetChanged();
    }
    void setReportNumbers(const std::shared_ptr<const ReportNumbers>& numbers) {
        if (m_reportNumbers == numbers || (m_reportNumbers && numbers && *m_reportNumbers == *numbers)) return;
        m_reportNumbers = numbers;
        emit reportNumbersChanged();
    }
    void setSheetElement(std::optional<std::size_t> element) { setSheetElement(element, m_sheetColumn); }
    void setSheetElement(std::optional<std::size_t> element, std::size_t column) {
        if (m_sheetElement == element && m_sheetColumn == column) return;
        m_sheetElement = element;
        m_sheetColumn = column;
        emit sheetElementChanged();
    }
    void setLayerLook(const fox::app::LayerLook& look) {
        if (m_layerLook == look) return;
        m_layerLook = look;
        emit layerLookChanged();
    }
    void setBlockLook(const fox::app::BlockLook& look) {
        if (m_blockLook == look) return;
        m_blockLook = look;
        emit blockLookChanged();
    }
    void setAlong(const fox::app::AlongLook& look) {
        if (m_along == look) return;
        m_along = look;
        emit alongChanged();
    }
    void setCuts(const std::vector<fox::app::UprightCut>& cuts) {
        if (m_cuts == cuts) return;
        m_cuts = cuts;
        emit cutsChanged();
    }
    void setLine(const std::optional<fox::ProjectLine>& line) {
        if (m_line == line) return;
        m_line = line;
        emit lineChanged();
    }
    /// The clicks are called off; the plane stays as it is.
    void cancelPlanePoints() {
        if (!m_planePoints) return;
        m_planePoints.reset();
        emit planeChanged();
    }
    /// The next three clicks on holes are places that the plane goes through.
    void startPlanePoints() {
        m_planePoints.emplace();
        emit planeChanged();
    }
    /// The third makes the plane. False if the three lie on one line: then they are to be clicked anew.
    bool addPlanePoint(fox::Point3 p) {
        if (!m_planePoints || !m_plane) return true;
        m_planePoints->push_back(p);
        if (m_planePoints->size() < 3) {
            emit planeChanged();
            return true;
        }
        const auto through = planeThrough(*m_planePoints);
        m_planePoints.reset();
        if (through) m_plane->plane = *through;
        emit planeChanged();
        return through.has_value();
    }
    void setDrillPlaces(const std::vector<fox::DrillPlace>& places) {
        if (m_drillPlaces.empty() && places.empty()) return;
        m_drillPlaces = places;
        emit drillPlacesChanged();
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
    void drillPlacesChanged();
    void planeChanged();
    void shownHolesChanged();
    void sheetTemplateChanged();
    void reportSheetChanged();
    void sheetElementChanged();
    void reportNumbersChanged();
    void layerLookChanged();
    void blockLookChanged();
    void alongChanged();
    void lineChanged();
    void cutsChanged();

private:
    QString m_hole, m_hovered, m_unit, m_trial;
    std::optional<Point2> m_probe;
    QSet<QString> m_hiddenUnits;
    PlanLook m_planLook;
    std::shared_ptr<const Variogram> m_dragged;
    std::vector<DrillPlace> m_drillPlaces;
    std::optional<PlaneAssignment> m_plane;
    std::optional<std::vector<Point3>> m_planePoints;
    std::optional<std::set<std::string>> m_shownHoles;
    std::shared_ptr<const SheetTemplate> m_sheetTemplate;
    std::string m_reportSheet;
    std::optional<std::size_t> m_sheetElement;
    std::size_t m_sheetColumn = 0;
    std::shared_ptr<const ReportNumbers> m_reportNumbers;
    LayerLook m_layerLook;
    BlockLook m_blockLook;
    AlongLook m_along;
    std::optional<ProjectLine> m_line;
    std::vector<UprightCut> m_cuts;
    int m_section = 0;
    double m_exaggeration = 5;
};

} // namespace fox::app
