#pragma once
#include "project/project.h"
#include "services/services.h"
#include "views/background.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QProgressBar;
class QPushButton;

namespace fox::app {

/// Asks a service for an elevation grid or a map picture of a rectangle: what there is, how much it would be, then the
/// job with its progress. The tile is written as a GeoTIFF and handed on to be imported.
class TileSheet : public QDialog {
    Q_OBJECT
public:
    /// The rectangle to begin with. Tiles are written into `folder`.
    TileSheet(const Project&, const Box2& rectangle, const QString& folder, QWidget* parent);
    ~TileSheet() override;
    void setRectangle(const Box2&);
    bool working() const { return m_work.busy(); }

signals:
    void tileMade(const QString& path);
    void rectangleAsked(); ///< to be drawn on the plan

private:
    Box2 rectangle() const;
    void showSize();
    void fetch();
    void setBusy(bool);

    std::string m_crs;
    QString m_folder;
    std::shared_ptr<const ElevationService> m_elevation;
    std::shared_ptr<const MapService> m_map;
    std::vector<std::pair<Dataset, bool>> m_offers; ///< with whether it is a map
    QComboBox* m_offer;
    QDoubleSpinBox* m_sides[4]; ///< west, south, east, north
    QLabel *m_note, *m_size;
    QProgressBar* m_progress;
    QPushButton *m_fetch, *m_stop, *m_draw;
    Background<QString> m_work; // last: it uses the above
};

} // namespace fox::app
