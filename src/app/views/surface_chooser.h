#pragma once
#include "views/block_scene.h"

#include <QDialog>

class QTableWidget;

namespace fox::app {

/// Which surfaces stand in a block view, what colours each, how far it can be seen through, and whether it has contours. What is
/// chosen shows at once.
class SurfaceChooser : public QDialog {
    Q_OBJECT
public:
    SurfaceChooser(const Project&, std::vector<SceneSurface> shown, QWidget* parent);

signals:
    void chosen(const std::vector<fox::app::SceneSurface>&);

private:
    void addRow(const SceneSurface&, const QString& words, bool isShown);
    void take();

    QTableWidget* m_table;
    std::vector<SceneSurface> m_rows;
};

} // namespace fox::app
