#include "dialogs/ground_settings.h"

#include "views/number_box.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>

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
      m_thin(new NumberBox(this)),
      m_cell(new NumberBox(this)) {
    m_form->setContentsMargins(0, 0, 0, 0);
    m_form->setVerticalSpacing(5);
    m_role->setObjectName("lineRole");
    m_role->addItems({tr("breaklines"), tr("contours"), tr("outlines"), tr("points"), tr("islands"), tr("faults"),
                      tr("section lines"), tr("only to look at"), tr("contacts of units")});
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
    m_unit->addItem(tr("metres"), 1.0);
    m_unit->addItem(tr("feet"), 0.3048);
    m_unit->addItem(tr("US survey feet"), 1200.0 / 3937);
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
    m_form->addRow(tr("Keep"), m_keep);
    m_form->addRow(tr("Thin lines by"), m_thin);
    m_form->addRow(tr("Cells"), m_cell);
    m_form->addRow(tr("Unit"), m_unit);
    const auto tell = [this] {
        if (!m_filling) emit changed();
    };
    for (auto* box : {m_role, m_field, m_keep, m_unit, m_unitField, m_surface}) connect(box, &QComboBox::activated, this, tell);
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
    fill(s, kind, u.survey || (u.contacts && !layer) ? Rows::Points : Rows::None, fields, u.asksForLayers());
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
    m_unit->setCurrentIndex(s.unit == 0 ? 0 : s.unit == 1 ? 1 : std::abs(s.unit - 0.3048) < 1e-9 ? 2 : 3);
    m_filling = false;
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
    if (m_kind == GroundKind::Grid) s.cell = m_cell->value() > 0 ? std::optional(m_cell->value()) : std::nullopt;
    s.surface = ContactSurface(std::max(0, m_surface->currentIndex()));
    if (m_survey) s.unit = m_unit->currentData().toDouble();
}

} // namespace fox::app
