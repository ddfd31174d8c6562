#pragma once
#include "shell/workspace.h"
#include "stages/panel_action.h"

#include <QPointer>
#include <filesystem>

namespace fox::app {

class SurfaceSheet;
class WaterSheet;

/// What the Model stage asks for that needs a sheet or a file: how a base is made, a base from a grid.
class SurfaceActions : public QObject {
    Q_OBJECT
public:
    SurfaceActions(Workspace&, QObject* parent);
    /// The sheet about the chosen unit's base; a page as SurfaceSheet::Page has them.
    void openSheet(int page);
    SurfaceSheet* sheet() const; ///< null if it is closed
    /// Adds a water surface of a unit and opens its sheet.
    void addWater(const QString& unitCode);
    /// The sheet about a water surface, by name.
    void openWater(const QString& surface);
    WaterSheet* waterSheet() const; ///< null if it is closed
    void askGrid(const QString& unitCode);
    bool settled() const { return !m_reading.busy(); }
    /// The unit's base is the grid's levels, brought to the project's system; read beside the window.
    void takeBase(const std::string& unitCode, const std::filesystem::path& grid);

private:
    void showSheet(const ProductsPtr&, int page);
    Workspace& m_workspace;
    QPointer<SurfaceSheet> m_sheet;
    QPointer<WaterSheet> m_waterSheet;
    struct ReadBase {
        FixedBase base;
        Findings findings;
    };
    Background<ReadBase> m_reading; // last: it uses the above
};

} // namespace fox::app
