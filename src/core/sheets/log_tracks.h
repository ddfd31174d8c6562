#pragma once
#include "sheets/log_drawing.h"

namespace fox {

/// What is drawn beside a log by depth: blow counts, soundings, geophysical logs, results of tests.
class LogTracks {
public:
    static constexpr double kWide = 14.8, kLeastWords = 25.4, kSmall = 2.65; ///< millimetres

    LogTracks(paper::Drawing& out, const Hole& hole, const LogLayout& layout) : m_out(out), m_hole(hole), m_layout(layout) {}

    /// Tests that were stopped stand at 50 blows with an arrow and "50/75".
    void addBlows(double left, double wide);
    /// As many as there is room for between the two, which move together; soundings first. Without intervals the tracks share it
    /// all.
    void addCurves(double& left, double& right);

private:
    struct Track {
        Curve curve;
        std::string head; ///< "qc"
    };
    std::vector<const Sounding*> deepestFirst() const;
    std::vector<Track> tracks() const;
    void addTrack(double left, double wide, const std::string& head, double low, double high, const std::string& unit,
                  const std::string& name);
    void addCurve(const Track&, double left, double wide, paper::Colour);
    void addWritten(const Curve&, const std::vector<Point2>& points);
    void addZones(const Curve& index, double left, double wide);
    void add(paper::Shape shape, const std::string& name) { m_out.add("tracks", name, std::move(shape), m_layout.area); }
    double y(double depth) const { return m_layout.yOf(depth); }

    paper::Drawing& m_out;
    const Hole& m_hole;
    const LogLayout& m_layout;
};

} // namespace fox
