#pragma once
#include "formats/system_list.h"
#include "views/background.h"

#include <QLineEdit>

class QStandardItemModel;

namespace fox::app {

/// A field for a coordinate system: typed by its EPSG number, or searched by name or area. Where it is known what the system is
/// for, the likely ones are proposed while the field is empty.
class SystemEdit : public QLineEdit {
    Q_OBJECT
public:
    explicit SystemEdit(QWidget* parent = nullptr);
    /// Its name and unit as the tooltip.
    void setSystem(const QString& code);
    /// A position in the system that is looked for, and where other data of the project lie, in which system. None: nothing is
    /// proposed.
    void setPosition(std::optional<Point2> at, const std::string& nearSystem = {}, Point2 near = {});

signals:
    void systemChosen(const QString& code); ///< from the list

protected:
    void focusInEvent(QFocusEvent*) override;

private:
    void search(const QString& typed);
    void propose();
    void show(const std::vector<SystemInfo>&, const QString& remark);

    QStandardItemModel* m_found;
    QString m_tip;
    std::optional<Point2> m_at;
    std::string m_nearSystem;
    Point2 m_near;
    Background<std::vector<SystemInfo>> m_work;
};

/// "ETRS89 / UTM zone 31N, in metres"; empty for a system that is not known.
QString systemWords(const std::string& code);

} // namespace fox::app
