#pragma once
#include "handover/layer_files.h"
#include "handover/where_files.h"
#include "shell/workspace.h"
#include "views/background.h"

#include <QPointer>

namespace fox::app {

class CellGroupsSheet;

/// What the part "Layers and meshes" asks for: files of grids and meshes, specifications from files.
class LayerActions : public QObject {
    Q_OBJECT
public:
    LayerActions(Workspace&, QObject* parent);
    void askWriteGrid(const std::string& grid);
    void askWriteMesh(const std::string& mesh);
    void writeGrid(const std::string& grid, const QString& folder);
    void writeMesh(const std::string& mesh, const QString& folder);
    void askFiles();
    void addFiles(const QStringList& paths);
    /// Asks for a file of places, cells or a mesh of others, and for one of the same form that gets unit and values too.
    void askWhere();
    /// `origin` was taken off the coordinates of the file; where nothing lies in the extent, it is asked for.
    void where(const QString& from, const QString& to, Point2 origin = {});
    /// The table of cells that the checks found, which stays open.
    void openGroups();
    /// Asks which value the cells within a ring of the layered grid that is shown get, and in which layers.
    void askTyped(const Polygon2& around);
    CellGroupsSheet* groups() const; ///< null if it is closed
    bool settled() const { return !m_isWaiting && !m_work.busy() && !m_where.busy(); }

private:
    /// Makes the files of one grid or mesh beside the window; what can't be made is said.
    template <typename Product, typename Prepare>
    void write(ProductKind, std::vector<std::shared_ptr<const Product>> ProductSet::*, const std::string& name,
               const QString& folder, Prepare);
    QString askFolder(const std::string& name);
    void finish(const std::shared_ptr<ReplaceFiles>&, const QString& folder, bool layers);

    Workspace& m_workspace;
    QPointer<CellGroupsSheet> m_groups;
    bool m_isWaiting = false; ///< for products
    void finishWhere(const std::shared_ptr<ReplaceFiles>&, const WhereAnswer&, const QString& from, const QString& to);
    Background<std::shared_ptr<ReplaceFiles>> m_work; // last: they use the above
    Background<std::pair<std::shared_ptr<ReplaceFiles>, WhereAnswer>> m_where;
};

} // namespace fox::app
