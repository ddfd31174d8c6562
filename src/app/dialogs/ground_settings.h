#pragma once
#include "importing/ground_import.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QToolButton;

namespace fox::app {

/// How a file of ground data or contacts is read: what its features are, where their levels stand, what of it is kept.
class GroundSettings : public QWidget {
    Q_OBJECT
public:
    explicit GroundSettings(QWidget* parent);
    /// Areas to keep only what is inside: the site limit, the model's frame.
    void setProject(const Project&);
    /// `fields` are columns of numbers, the one most like a level first.
    void fill(const SourceSettings&, const ImportPreview&);
    void into(SourceSettings&) const;

signals:
    void changed();

private:
    void showRow(QWidget* field, bool);

    QFormLayout* m_form;
    enum class Rows { None, Points }; ///< of a table: points of the ground or of contacts
    void fill(const SourceSettings&, GroundKind, Rows, const std::vector<std::string>& fields, bool byLayer);
    void fillFields(const SourceSettings&, const ImportPreview&);
    void buildValues(const SourceSettings&);
    std::map<std::string, std::size_t> valuesOf(const std::string& field) const;

    QComboBox *m_role, *m_field, *m_keep, *m_unit, *m_unitField, *m_surface, *m_number, *m_code, *m_filterField;
    QToolButton* m_filterValues; ///< a tick for each value
    QWidget *m_filterRow, *m_attributeRow;
    std::map<std::string, std::map<std::string, std::size_t>> m_values; ///< of each column
    QDoubleSpinBox *m_thin, *m_cell;
    std::vector<Polygon2> m_areas; ///< as m_keep has them
    GroundKind m_kind = GroundKind::None;
    bool m_survey = false;
    bool m_filling = false;
};

} // namespace fox::app
