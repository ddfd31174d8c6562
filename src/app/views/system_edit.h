#pragma once
#include "base/point.h"

#include <QLineEdit>

class QStandardItemModel;

namespace fox::app {

/// A field for a coordinate system: typed by its EPSG number, or searched by name or area.
class SystemEdit : public QLineEdit {
    Q_OBJECT
public:
    explicit SystemEdit(QWidget* parent = nullptr);
    /// Its name and unit as the tooltip.
    void setSystem(const QString& code);

signals:
    void systemChosen(const QString& code); ///< from the list

private:
    void search(const QString& typed);

    QStandardItemModel* m_found;
    QString m_tip;
};

/// "ETRS89 / UTM zone 31N, in metres"; empty for a system that is not known.
QString systemWords(const std::string& code);

} // namespace fox::app
