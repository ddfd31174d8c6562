#include "dialogs/ground_settings.h"

#include "base/length_unit.h"
#include "views/number_box.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QMenu>
#include <QToolButton>

namespace fox::app {

namespace {

constexpr int kContacts = kLineRoles; ///< in the list of roles, behind those of lines

Polygon2 ringOf(const Frame& f) { return {{f.xmin, f.ymin}, {f.xmax, f.ymin}, {f.xmax, f.ymax}, {f.xmin, f.ymax}}; }

} // namespace

GroundSettings::GroundSettings(QWidget* parent)
    : QWidget(parent),
      m_form(new QFormLayout(this)),
      m_role(new QComboBox(this)),
      m_field(new QComboBox(this)),
      m_keep(new QComboBox(this)),
      m_unit(new QComboBox(this)),
      m_unitField(new QComboBox(this)),
      m_surface(new QComboBox(this)),
      m_number(new QComboBox(this)),
      m_code(new QComboBox(this)),
      m_filterField(new QComboBox(this)),
      m_filterValues(new QToolButton(this)),
      m_filterRow(new QWidget(this)),
      m_attributeRow(new QWidget(this)),
      m_thin(new NumberBox(this)),
      m_cell(new NumberBox(this)) {
    m_form->setContentsMargins(0, 0, 0, 0);
    m_form->setVerticalSpacing(5);
    m_role->setObjectName("lineRole");
    m_role->addItems({tr("breaklines"), tr("contours"), tr("outlines"), tr("points"), tr("islands"), tr("faults"),
                      tr("section lines"), tr("only to look at"), tr("guide lines"), tr("contacts of units")});
    m_role->setToolTip(
        tr("Breaklines are edges of triangles; contours too, and flats between them are rounded; outlines limit the "
           "ground or leave islands in it"));
    m_field->setObjectName("levelField");
    m_field->setToolTip(tr("Where the level stands: in the geometry, or in a column"));
    m_keep->setObjectName("keepArea");
    m_keep->setToolTip(tr("Only what lies inside is read, cut at its edge: that is fast, also for a file of a whole country"));
    m_thin->setObjectName("thinBy");
    m_thin->setRange(0, 100);
    m_thin->setDecimals(2);
    m_thin->setSuffix(tr(" m"));
    m_thin->setSpecialValueText(tr("not at all"));
    m_thin->setKeyboardTracking(false);
    m_thin->setToolTip(tr("Vertices are dropped that lie no farther than this from the line without them"));
    m_cell->setObjectName("gridCell");
    m_cell->setRange(0, 10000);
    m_cell->setDecimals(1);
    m_cell->setSuffix(tr(" m"));
    m_cell->setSpecialValueText(tr("as in the file"));
    m_cell->setKeyboardTracking(false);
    m_cell->setToolTip(tr("A finer sample is rounded between the cells (cubic); it knows no more than the file does"));
    m_unit->setObjectName("surveyUnit");
    m_unit->addItem(tr("as the coordinate system, else metres"), 0.0);
    for (const auto& unit : lengthUnits()) m_unit->addItem(tr(unit.words), unit.metres);
    m_unit->setToolTip(tr("Unit of coordinates and levels; with a coordinate system of its own, of the levels only"));
    m_unitField->setObjectName("unitField");
    m_unitField->setToolTip(tr("Which column names the unit"));
    m_surface->setObjectName("contactSurface");
    m_surface->addItems({tr("the base of their unit"), tr("the top of their unit")});
    m_surface->setToolTip(tr("A point on the top of a unit is one on the base of the unit before it in the sequence"));
    m_form->addRow(tr("The features are"), m_role);
    m_form->addRow(tr("Unit from"), m_unitField);
    m_form->addRow(tr("The contacts lie on"), m_surface);
    m_form->addRow(tr("Levels from"), m_field);
    m_number->setObjectName("numberField");
    m_number->setToolTip(tr("Which column holds a point's number"));
    m_code->setObjectName("codeField");
    m_code->setToolTip(tr("Which column holds a point's code, or the unit of a guide line"));
    m_filterField->setObjectName("filterField");
    m_filterField->setToolTip(tr("Only objects with some of the values of a column are read"));
    m_filterValues->setObjectName("filterValues");
    m_filterValues->setPopupMode(QToolButton::InstantPopup);
    m_filterValues->setMenu(new QMenu(m_filterValues));
    const auto inRow = [](QWidget* row, std::initializer_list<QWidget*> widgets) {
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        for (auto* w : widgets) line->addWidget(w, 1);
    };
    inRow(m_attributeRow, {m_number, m_code});
    inRow(m_filterRow, {m_filterField, m_filterValues});
    m_form->addRow(tr("Number, code from"), m_attributeRow);
    m_form->addRow(tr("Only with"), m_filterRow);
    m_form->addRow(tr("Keep"), m_keep);
    m_form->addRow(tr("Thin lines by"), m_thin);
    m_form->addRow(tr("Cells"), m_cell);
    m_form->addRow(tr("Unit"), m_unit);
    const auto tell = [this] {
        if (!m_filling) emit changed();
    };
    for (auto* box : {m_role, m_field, m_keep, m_unit, m_unitField, m_surface, m_number, m_code, m_filterField})
        connect(box, &QComboBox::activated, this, tell);
    for (auto* box : {m_thin, m_cell}) box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    for (auto* box : {m_thin, m_cell}) connect(box, &QDoubleSpinBox::valueChanged, this, tell);
}

void GroundSettings::setProject(const Project& project) {
    m_keep->clear();
    m_areas.assign(1, {});
    m_keep->addItem(tr("all of it"));
    const auto add = [&](const QString& words, const Polygon2& ring) {
        m_keep->addItem(words);
        m_areas.push_back(ring);
    };
    if (!project.site->limit.empty()) add(tr("inside the site limit"), project.site->limit);
    if (const auto frame = frameOf(project)) {
        add(tr("inside the model's extent"), ringOf(*frame));
        auto wide = *frame;
        const double margin = 0.25 * std::max(wide.xmax - wide.xmin, wide.ymax - wide.ymin);
        wide.xmin -= margin, wide.xmax += margin, wide.ymin -= margin, wide.ymax += margin;
        add(tr("inside it and a quarter around"), ringOf(wide));
    }
    for (const auto& o : project.ground->outlines)
        add((o.holes.empty() ? tr("inside %1") : tr("inside the outer edge of %1")).arg(QString::fromStdString(o.name)), o.ring);
}

void GroundSettings::showRow(QWidget* field, bool visible) {
    field->setVisible(visible);
    m_form->labelForField(field)->setVisible(visible);
}

void GroundSettings::fill(const SourceSettings& s, const ImportPreview& u) {
    const bool layer = u.sheets.empty(); // else a table
    const auto kind = u.contacts && layer ? GroundKind::Lines
                      : u.lines           ? (u.file.format == "triangles" ? GroundKind::Triangles : GroundKind::Lines)
                      : u.grid            ? GroundKind::Grid
                      : u.picture         ? GroundKind::Picture
                                          : GroundKind::None;
    const auto fields = u.lines                                    ? u.lines->fields
                        : u.contacts && layer && !u.tables.empty() ? u.tables.front().columns
                                                                   : std::vector<std::string>();
    fill(s, kind, u.survey || u.values || (u.contacts && !layer) ? Rows::Points : Rows::None, fields, u.asksForLayers());
    fillFields(s, u);
}

/// The columns that say which objects are read, and what points are called.
void GroundSettings::fillFields(const SourceSettings& s, const ImportPreview& u) {
    m_filling = true;
    m_values = u.lines ? u.lines->values : decltype(m_values)();
    const auto fill = [&](QComboBox* box, const QString& none, const std::string& chosen, bool onlyFew) {
        box->clear();
        box->addItem(none, QString());
        for (const auto& [field, values] : m_values)
            if (!onlyFew || values.size() > 1) box->addItem(QString::fromStdString(field), QString::fromStdString(field));
        box->setCurrentIndex(std::max(0, box->findData(QString::fromStdString(chosen))));
    };
    fill(m_number, tr("no number"), s.numberField, false);
    fill(m_code, tr("no code"), s.codeField, false);
    fill(m_filterField, tr("any values"), s.filter.field, true);
    const bool lines = u.lines && m_kind == GroundKind::Lines;
    const auto isRead = [&](LineRole role) {
        return u.lines && std::ranges::any_of(u.lines->layers, [&](const auto& l) { return l.used && l.role == role; });
    };
    showRow(m_attributeRow, lines && (!u.lines->points.empty() || isRead(LineRole::Points) || isRead(LineRole::Guides)));
    showRow(m_filterRow, lines && m_filterField->count() > 1);
    buildValues(s);
    m_filling = false;
}

void GroundSettings::buildValues(const SourceSettings& s) {
    auto* menu = m_filterValues->menu();
    menu->clear();
    const auto at = m_values.find(s.filter.field);
    m_filterValues->setVisible(at != m_values.end());
    if (at == m_values.end()) return;
    m_filterValues->setText(tr("%1 of %2 values").arg(s.filter.values.size()).arg(at->second.size()));
    for (const auto& [value, count] : at->second) {
        auto* tick = menu->addAction(tr("%1 (%2)").arg(value.empty() ? tr("(none)") : QString::fromStdString(value)).arg(count));
        tick->setData(QString::fromStdString(value));
        tick->setCheckable(true);
        tick->setChecked(std::ranges::count(s.filter.values, value) > 0);
        connect(tick, &QAction::toggled, this, [this] { emit changed(); });
    }
}

void GroundSettings::fill(const SourceSettings& s, GroundKind kind, Rows rows, const std::vector<std::string>& fields,
                          bool byLayer) {
    m_filling = true;
    const bool survey = rows == Rows::Points, contacts = s.as == SourceSettings::As::Contacts;
    m_kind = kind, m_survey = survey;
    const bool lines = kind == GroundKind::Lines;
    for (auto* w : std::initializer_list<QWidget*>{m_field, m_keep}) showRow(w, lines);
    showRow(m_role, lines && !byLayer && s.layerRoles.empty()); // else each layer says what it is
    showRow(m_thin, lines && !contacts);
    showRow(m_unitField, lines && contacts);
    showRow(m_surface, contacts && (lines || survey));
    m_surface->setCurrentIndex(int(s.surface));
    m_unitField->clear();
    for (const auto& f : fields) m_unitField->addItem(QString::fromStdString(f), QString::fromStdString(f));
    m_unitField->setCurrentIndex(std::max(0, m_unitField->findData(QString::fromStdString(s.unitField))));
    showRow(m_cell, kind == GroundKind::Grid);
    showRow(m_unit, survey);
    m_role->setCurrentIndex(contacts ? kContacts : int(s.role.value_or(LineRole::Breaklines)));
    m_field->clear();
    m_field->addItem(tr("the geometry"), QString());
    for (const auto& f : fields) m_field->addItem(tr("column %1").arg(QString::fromStdString(f)), QString::fromStdString(f));
    m_field->setCurrentIndex(std::max(0, m_field->findData(QString::fromStdString(s.levelField))));
    const auto area = std::ranges::find(m_areas, s.keep);
    if (area == m_areas.end() && !s.keep.empty()) {
        m_areas.push_back(s.keep);
        m_keep->addItem(tr("inside the area as it was"));
        m_keep->setCurrentIndex(m_keep->count() - 1);
    } else {
        m_keep->setCurrentIndex(s.keep.empty() ? 0 : int(area - m_areas.begin()));
    }
    m_thin->setValue(s.thin);
    m_cell->setValue(s.cell.value_or(0));
    m_unit->setCurrentIndex(0);
    for (int i = 1; i < m_unit->count(); ++i)
        if (std::abs(m_unit->itemData(i).toDouble() - s.unit) < 1e-9) m_unit->setCurrentIndex(i);
    m_filling = false;
}

std::map<std::string, std::size_t> GroundSettings::valuesOf(const std::string& field) const {
    const auto at = m_values.find(field);
    return at == m_values.end() ? std::map<std::string, std::size_t>() : at->second;
}

void GroundSettings::into(SourceSettings& s) const {
    if (m_kind == GroundKind::Lines) {
        const bool contacts = m_role->currentIndex() == kContacts;
        s.role = contacts ? std::nullopt : std::optional(LineRole(m_role->currentIndex()));
        const bool were = s.as == SourceSettings::As::Contacts;
        s.as = contacts ? SourceSettings::As::Contacts : SourceSettings::As::Guess;
        if (contacts && were) s.unitField = m_unitField->currentData().toString().toStdString();
        s.levelField = m_field->currentData().toString().toStdString();
        s.thin = m_thin->value();
        s.keep = m_areas[std::size_t(std::max(0, m_keep->currentIndex()))];
    }
    if (m_kind == GroundKind::Lines && !m_values.empty()) {
        s.numberField = m_number->currentData().toString().toStdString();
        s.codeField = m_code->currentData().toString().toStdString();
        const auto filterField = m_filterField->currentData().toString().toStdString();
        const bool sameField = filterField == s.filter.field;
        s.filter = {filterField, {}};
        if (!sameField) // all at first
            for (const auto& [value, count] : valuesOf(filterField)) s.filter.values.push_back(value);
        else
            for (const auto* tick : m_filterValues->menu()->actions())
                if (tick->isChecked()) s.filter.values.push_back(tick->data().toString().toStdString());
        if (filterField.empty()) s.filter = {};
    }
    if (m_kind == GroundKind::Grid) s.cell = m_cell->value() > 0 ? std::optional(m_cell->value()) : std::nullopt;
    s.surface = ContactSurface(std::max(0, m_surface->currentIndex()));
    if (m_survey) s.unit = m_unit->currentData().toDouble();
}

} // namespace fox::app
