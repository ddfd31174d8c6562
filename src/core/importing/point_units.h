#pragma once
#include "importing/import.h"

namespace fox {

/// In which units a table of points gives coordinates and levels: by what its headings say, by choice for the whole file, or by
/// the file's system; and what is to be said of that, because another unit than the metre is never passed over in silence.
class PointUnits {
public:
    /// Adds findings to the file.
    PointUnits(SourceFile&, const SurveyColumns& named);
    /// Coordinates of another system are in that system's unit; levels in metres.
    Point3 inMetres(const Point3&) const;
    double metresInUnit() const { return m_unit; } ///< where no heading says otherwise
    bool changesAnything() const { return m_unit != 1 || m_named.namesUnits(); }

private:
    void sayUnitOfSystem(SourceFile&) const;
    void sayUnitsOfColumns(SourceFile&) const;
    SurveyColumns m_named;
    double m_unit = 1;
    bool m_hasSystem = false;
};

} // namespace fox
