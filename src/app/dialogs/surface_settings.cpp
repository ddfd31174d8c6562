#include "base/limits.h"
#include "dialogs/grid_map.h"
#include "dialogs/surface_sheet.h"
#include "model/surface_maps.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/background.h"
#include "views/number_box.h"
#include "views/variogram_chart.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>

namespace fox::app {

namespace {

/// Settings at the left, each an edit as soon as it is changed; variogram and map at the right.
class SettingsPage : public SurfacePage {
public:
    explicit SettingsPage(QWidget* parent) : SurfacePage(parent), m_preview(this) {
        makeSettings();
        makeGrid();
        makeVariogram();
        auto* settings = new QWidget(this);
        settings->setLayout(m_form);
        auto* scroll = new QScrollArea(this);
        scroll->setWidget(settings);
        scroll->setWidgetResizable(true);
        scroll->setFrameShape(QFrame::NoFrame);
        scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        scroll->setMinimumWidth(390);
        m_words->setObjectName("surfaceWords");
        m_words->setWordWrap(true);
        auto* right = new QVBoxLayout;
        right->addWidget(m_map, 3);
        right->addWidget(m_variogramBox, 2);
        right->addWidget(m_words);
        auto* layout = new QHBoxLayout(this);
        layout->addWidget(scroll, 4);
        layout->addLayout(right, 5);
    }

    bool settled() const override { return !m_preview.busy(); }

protected:
    void fill() override {
        m_filling = true;
        const auto& recipe = unit().recipe;
        const auto& s = recipe.settings;
        m_method->setCurrentIndex(recipe.automatic ? 0 : 1 + int(s.method));
        m_from->setItemText(0, base().isAutomatic() ? tr("all, averaged")
                                                    : tr("chosen: %1").arg(QString::fromUtf8(fox::words(base().reference))));
        m_from->setCurrentIndex(recipe.reference ? 1 + int(*recipe.reference) : 0);
        fillAgainst();
        fillSeries();
        m_planeTyped->setChecked(recipe.tilt.has_value());
        const auto plane = base().in.plane.value_or(Plane{});
        m_strike->setValue(recipe.tilt ? recipe.tilt->strike : plane.strike());
        m_dip->setValue(recipe.tilt ? recipe.tilt->dip : plane.dip());
        m_bounds->setChecked(recipe.bounds);
        m_power->setValue(s.power);
        m_neighbours->setValue(s.neighbours);
        m_radius->setValue(s.radius.value_or(0));
        m_azimuth->setValue(s.anisotropy.azimuth);
        m_ratio->setValue(s.anisotropy.ratio);
        m_reach->setValue(s.reach.value_or(0));
        m_carried->setChecked(s.carriedOn);
        showWhatMatters();
        fillGrid();
        fillVariogram();
        fillWords();
        showMap(*products().model, QString());
        m_filling = false;
    }

private:
    template <typename Box>
    Box* number(const QString& label, const char* name, double low, double high, double step, const QString& suffix,
                const QString& none, const QString& tip, const QString& what, void (*set)(SurfaceRecipe&, double)) {
        auto* box = new Box(this);
        box->setObjectName(name);
        box->setRange(low, high);
        box->setSingleStep(step);
        box->setSuffix(suffix);
        if (!none.isEmpty()) box->setSpecialValueText(none);
        box->setKeyboardTracking(false);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setToolTip(tip);
        m_form->addRow(label, box);
        connect(box, &Box::valueChanged, this,
                [this, what, set](auto v) { change(what, [set, v = double(v)](SurfaceRecipe& r) { set(r, v); }); });
        return box;
    }

    QComboBox* choice(const QString& label, const char* name, const QString& tip) {
        auto* box = new QComboBox(this);
        box->setObjectName(name);
        box->setToolTip(tip);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // long choices do not push it out of sight
        constexpr int kLetters = 16;
        box->setMinimumContentsLength(kLetters);
        m_form->addRow(label, box);
        return box;
    }

    QCheckBox* tick(const QString& label, const char* name, const QString& tip) {
        auto* box = new QCheckBox(label, this);
        box->setObjectName(name);
        box->setToolTip(tip);
        m_form->addRow(QString(), box);
        return box;
    }

    void makeSettings() {
        m_method = choice(tr("Method"), "surfaceMethod",
                          tr("Which method is better is told by the leave-one-out error; see the next page"));
        for (const auto m : baseMethods()) m_method->addItem(QString::fromUtf8(methodInWords(m)));
        connect(m_method, &QComboBox::activated, this,
                [this](int i) { change(tr("method"), [i](SurfaceRecipe& r) { setMethod(r, baseMethods()[std::size_t(i)]); }); });
        m_from = choice(tr("Made from"), "surfaceFrom",
                        tr("Levels; levels less a tilted plane; depths, for units that follow the ground; thicknesses, for units "
                           "that come and go; levels less a share of the ground or of another base, for what is in between"));
        m_from->addItem({});
        for (int k = 0; k <= int(BaseReference::Trend); ++k) m_from->addItem(QString::fromUtf8(fox::words(BaseReference(k))));
        connect(m_from, &QComboBox::activated, this, [this](int i) {
            change(tr("what it is made from"), [i](SurfaceRecipe& r) {
                r.reference = i == 0 ? std::nullopt : std::optional(BaseReference(i - 1));
                if (r.reference != BaseReference::Thickness && r.reference != BaseReference::Trend) r.against.clear();
            });
        });
        m_against =
            choice(tr("Measured from"), "surfaceAgainst", tr("Where the thickness is measured from, or what the trend is of"));
        connect(m_against, &QComboBox::activated, this, [this](int i) {
            change(tr("what it is measured from"),
                   [unit = m_against->itemData(i).toString().toStdString()](SurfaceRecipe& r) { r.against = unit; });
        });
        m_planeTyped = tick(tr("Plane by strike and dip"), "surfacePlaneTyped", tr("Off: the plane that fits the contacts best"));
        connect(m_planeTyped, &QCheckBox::toggled, this, [this](bool on) {
            const auto tilt = on ? std::optional(Tilt{m_strike->value(), m_dip->value()}) : std::nullopt;
            change(tr("plane"), [tilt](SurfaceRecipe& r) { r.tilt = tilt; });
        });
        m_strike = number<NumberBox>(tr("Strike"), "surfaceStrike", 0, 359.9, 5, tr("°"), {},
                                     tr("Clockwise from north; the plane dips to its right"), tr("strike"),
                                     [](SurfaceRecipe& r, double v) { (r.tilt ? *r.tilt : r.tilt.emplace()).strike = v; });
        m_dip = number<NumberBox>(tr("Dip"), "surfaceDip", 0, 89, 1, tr("°"), {}, tr("Below the horizontal"), tr("dip"),
                                  [](SurfaceRecipe& r, double v) { (r.tilt ? *r.tilt : r.tilt.emplace()).dip = v; });
        m_bounds = tick(tr("Honour the limits of holes"), "surfaceBounds",
                        tr("Holes that stop short and holes without the unit hold the base down or up; off: contacts alone"));
        connect(m_bounds, &QCheckBox::toggled, this,
                [this](bool on) { change(tr("bounds"), [on](SurfaceRecipe& r) { r.bounds = on; }); });
        m_series = choice(tr("Series"), "surfaceSeries",
                          tr("Bases of one series share a variogram, fitted to all their contacts: for units of which each has "
                             "few. Type a name, or choose one. A base made from thickness keeps its own"));
        m_series->setEditable(true);
        m_series->setInsertPolicy(QComboBox::NoInsert);
        m_series->lineEdit()->setPlaceholderText(tr("none: a variogram of its own"));
        connect(m_series->lineEdit(), &QLineEdit::editingFinished, this, [this] { setSeries(); });
        connect(m_series, &QComboBox::activated, this, [this] { setSeries(); });
        m_power = number<NumberBox>(tr("Power"), "surfacePower", 0.5, 10, 0.5, {}, {},
                                    tr("The larger, the more the nearest holes count"), tr("power"),
                                    [](SurfaceRecipe& r, double v) { r.settings.power = v; });
        m_neighbours = number<QSpinBox>(tr("Neighbours"), "surfaceNeighbours", 0, 500, 1, {}, tr("all"),
                                        tr("How many of the nearest holes count at a place"), tr("neighbours"),
                                        [](SurfaceRecipe& r, double v) { r.settings.neighbours = int(v); });
        m_radius = number<NumberBox>(
            tr("Search radius"), "surfaceRadius", 0, 100000, 50, tr(" m"), tr("none"), tr("Holes farther off do not count"),
            tr("search radius"), [](SurfaceRecipe& r, double v) { r.settings.radius = v > 0 ? std::optional(v) : std::nullopt; });
        m_azimuth = number<NumberBox>(tr("Long axis"), "surfaceAzimuth", 0, 179.9, 5, tr("° from north"), {},
                                      tr("The direction along which the base changes least"), tr("anisotropy"),
                                      [](SurfaceRecipe& r, double v) { r.settings.anisotropy.azimuth = v; });
        m_ratio = number<NumberBox>(tr("Anisotropy ratio"), "surfaceRatio", 1, 20, 0.5, {}, tr("1, the same in all directions"),
                                    tr("How many times as far values are alike along the long axis"), tr("anisotropy"),
                                    [](SurfaceRecipe& r, double v) { r.settings.anisotropy.ratio = v; });
        m_reach =
            number<NumberBox>(tr("Maximum distance"), "surfaceReach", 0, 100000, 50, tr(" m from holes"), tr("no limit"),
                              tr("Farther than this from every data point the base is not known"), tr("maximum distance"),
                              [](SurfaceRecipe& r, double v) { r.settings.reach = v > 0 ? std::optional(v) : std::nullopt; });
        m_carried = tick(tr("Extrapolate outside the holes"), "surfaceCarried",
                         tr("Methods of triangles have no value outside the holes' outline; on: that of its nearest place"));
        connect(m_carried, &QCheckBox::toggled, this,
                [this](bool on) { change(tr("outside the holes"), [on](SurfaceRecipe& r) { r.settings.carriedOn = on; }); });
    }

    /// Extent and cell of the map and of what is handed on: the site's, or the surface's own.
    void makeGrid() {
        m_ownGrid = tick(tr("A grid of its own"), "surfaceOwnGrid",
                         tr("Off: extent and cell size of the site. They decide where and how finely the base is mapped and "
                            "exported, not what it is"));
        connect(m_ownGrid, &QCheckBox::toggled, this, [this](bool on) {
            const auto grid = on ? products().frame : std::nullopt;
            change(tr("grid"), [grid](SurfaceRecipe& r) { r.grid = grid; });
        });
        const auto side = [&](const QString& label, const char* name, double Frame::*member) {
            auto* box = new NumberBox(this);
            box->setObjectName(name);
            box->setRange(member == &Frame::cell ? 0.1 : -1e8, 1e8);
            box->setDecimals(member == &Frame::cell ? 1 : 2);
            box->setSuffix(tr(" m"));
            box->setKeyboardTracking(false);
            box->setButtonSymbols(QAbstractSpinBox::NoButtons);
            m_form->addRow(label, box);
            connect(box, &QDoubleSpinBox::valueChanged, this, [this, member](double v) {
                if (m_filling || !unit().recipe.grid) return;
                auto grid = *unit().recipe.grid;
                grid.*member = v;
                if (!(grid.xmax > grid.xmin) || !(grid.ymax > grid.ymin)) {
                    fillGrid();
                    return emit failed(tr("The extent would be reversed: east must lie east of west, north north of south."));
                }
                if (cellsOf(grid) > limits::kGridCells) {
                    fillGrid();
                    return emit failed(tr("The grid would have over %1 million cells.").arg(limits::kGridCells / 1e6));
                }
                change(tr("grid"), [member, v](SurfaceRecipe& r) {
                    if (r.grid) (*r.grid).*member = v;
                });
            });
            m_gridSides.emplace_back(box, member);
        };
        side(tr("Cell"), "surfaceCell", &Frame::cell);
        side(tr("West"), "surfaceWest", &Frame::xmin);
        side(tr("South"), "surfaceSouth", &Frame::ymin);
        side(tr("East"), "surfaceEast", &Frame::xmax);
        side(tr("North"), "surfaceNorth", &Frame::ymax);
    }

    void fillGrid() {
        const bool was = std::exchange(m_filling, true);
        const auto& own = unit().recipe.grid;
        m_ownGrid->setChecked(own.has_value());
        const auto grid = own.value_or(*products().frame);
        for (const auto& [box, member] : m_gridSides) {
            box->setValue(grid.*member);
            m_form->setRowVisible(box, own.has_value());
        }
        m_filling = was;
    }

    void makeVariogram() {
        m_variogramBox = new QWidget(this);
        m_chart = new VariogramChart(m_variogramBox);
        m_chart->setObjectName("variogramChart");
        m_model = new QComboBox(m_variogramBox);
        m_model->setObjectName("variogramModel");
        for (int k = 0; k < 4; ++k) m_model->addItem(QString::fromUtf8(fox::name(VariogramModel(k))));
        m_fitted = new QPushButton(tr("Fit again"), m_variogramBox);
        m_fitted->setObjectName("variogramFit");
        m_fitted->setToolTip(tr("Take the variogram that fits the points best"));
        m_sector = new NumberBox(m_variogramBox);
        m_sector->setRange(0, 179);
        m_sector->setSuffix(tr("°"));
        m_sector->setToolTip(tr("Direction of the pairs that are drawn, clockwise from north"));
        m_tolerance = new NumberBox(m_variogramBox);
        m_tolerance->setObjectName("variogramTolerance");
        m_tolerance->setRange(5, 90);
        m_tolerance->setSuffix(tr("°"));
        m_tolerance->setValue(90);
        m_tolerance->setToolTip(tr("To either side of the direction; 90: all pairs"));
        m_numbers = new QLabel(m_variogramBox);
        m_numbers->setProperty("muted", true);
        auto* tools = new QHBoxLayout;
        tools->addWidget(m_model);
        tools->addWidget(m_fitted);
        tools->addStretch(1);
        tools->addWidget(new QLabel(tr("Lag direction"), m_variogramBox));
        tools->addWidget(m_sector);
        tools->addWidget(new QLabel(QString(QChar(0xB1)), m_variogramBox));
        tools->addWidget(m_tolerance);
        auto* layout = new QVBoxLayout(m_variogramBox);
        layout->setContentsMargins(0, 6, 0, 0);
        layout->addWidget(m_chart, 1);
        layout->addWidget(m_numbers);
        layout->addLayout(tools);
        connect(m_chart, &VariogramChart::dragged, this, [this](const Variogram& v) {
            showNumbers(v, false);
            preview(v);
            emit variogramDragged(v);
        });
        connect(m_chart, &VariogramChart::released, this,
                [this](const Variogram& v) { change(tr("variogram"), [v](SurfaceRecipe& r) { r.settings.variogram = v; }); });
        connect(m_model, &QComboBox::activated, this, [this](int i) {
            auto v = m_chart->model();
            v.model = VariogramModel(i);
            if (v.model == VariogramModel::Gaussian) v.nugget = std::max(v.nugget, 1e-3 * v.partialSill);
            change(tr("variogram"), [v](SurfaceRecipe& r) { r.settings.variogram = v; });
        });
        connect(m_fitted, &QPushButton::clicked, this,
                [this] { change(tr("variogram fitted"), [](SurfaceRecipe& r) { r.settings.variogram.reset(); }); });
        for (auto* box : {m_sector, m_tolerance}) box->setButtonSymbols(QAbstractSpinBox::NoButtons), box->setDecimals(0);
        for (auto* box : {m_sector, m_tolerance}) connect(box, &QDoubleSpinBox::valueChanged, this, [this] { showLags(); });
    }

    void change(const QString& what, const std::function<void(SurfaceRecipe&)>& edit) {
        if (m_filling) return;
        emit editMade([code = unit().code, edit, words = what.toStdString()](const Project& p) {
            return changeRecipe(p, code, edit, words);
        });
    }

    void setSeries() {
        const auto series = m_series->currentText().trimmed().toStdString();
        if (m_filling || series == m_namedSeries) return; // a field is left twice: by Enter, and by going elsewhere
        m_namedSeries = series;
        change(tr("series"), [series](SurfaceRecipe& r) { r.series = series; });
    }

    void fillSeries() {
        m_series->clear();
        QStringList names;
        for (const auto& u : products().project.sequence->units) names << QString::fromStdString(u.recipe.series);
        names.removeAll(QString());
        names.removeDuplicates();
        m_series->addItems(names);
        m_namedSeries = unit().recipe.series;
        m_series->setCurrentText(QString::fromStdString(m_namedSeries));
    }

    void fillAgainst() {
        m_against->clear();
        const bool isTrend = unit().recipe.reference == BaseReference::Trend;
        m_against->addItem(isTrend ? tr("the smoothed ground") : tr("the unit's own top"), QString());
        for (std::size_t u = 0; u < products().model->bases.size(); ++u) {
            if (u == unitIndex()) continue;
            const auto& other = products().project.sequence->units[u];
            const auto words = isTrend           ? tr("the base of %1")
                               : u < unitIndex() ? tr("under the base of %1")
                                                 : tr("over the base of %1");
            m_against->addItem(words.arg(QString::fromStdString(other.name)), QString::fromStdString(other.code));
        }
        m_against->setCurrentIndex(std::max(0, m_against->findData(QString::fromStdString(unit().recipe.against))));
    }

    void showRow(QWidget* field, bool shown) {
        field->setVisible(shown);
        if (auto* label = m_form->labelForField(field)) label->setVisible(shown);
    }

    /// Only what has an effect with this method and these data.
    void showWhatMatters() {
        const auto& r = unit().recipe;
        const auto method = r.settings.method;
        const bool triangles = method == Method::Linear || method == Method::NaturalNeighbour;
        showRow(m_against, r.reference == BaseReference::Thickness || r.reference == BaseReference::Trend);
        const bool plane = r.reference == BaseReference::Plane;
        showRow(m_planeTyped, plane);
        showRow(m_strike, plane && r.tilt);
        showRow(m_dip, plane && r.tilt);
        const bool byMethod = !r.automatic; // an average has none of what follows
        showRow(m_power, byMethod && method == Method::InverseDistance);
        showRow(m_neighbours, byMethod && !triangles && method != Method::Nearest);
        showRow(m_radius, byMethod && !triangles);
        showRow(m_carried, byMethod && triangles);
        showRow(m_reach, byMethod);
        showRow(m_azimuth, r.settings.anisotropy.ratio > 1);
        showRow(m_series, byMethod && hasVariogram(method));
        m_variogramBox->setVisible(byMethod && hasVariogram(method));
    }

    void fillVariogram() {
        const auto& v = base().fit.settings.variogram;
        if (!v || !m_variogramBox->isVisibleTo(this)) return;
        showLags();
        m_chart->setModel(*v);
        m_model->setCurrentIndex(int(v->model));
        showNumbers(*v, !unit().recipe.settings.variogram);
    }

    void showLags() {
        m_chart->setLags(empiricalVariogram(variogramPoints(base(), m_tolerance->value() >= 90), 12,
                                            {m_sector->value(), m_tolerance->value()}));
    }

    void showNumbers(const Variogram& v, bool fitted) {
        const bool linear = v.model == VariogramModel::Linear; // it has no sill and no range
        const auto rest = linear ? tr("slope %1 m²/m").arg(v.partialSill / v.range, 0, 'g', 3)
                                 : tr("sill %1 m², range %2").arg(v.nugget + v.partialSill, 0, 'g', 3).arg(metres(v.range, 0));
        m_numbers->setText(
            tr("%1: nugget %2 m², %3%4")
                .arg(QString::fromUtf8(fox::name(v.model)))
                .arg(v.nugget, 0, 'g', 3)
                .arg(rest, !fitted ? tr(" · set by hand")
                           : base().in.series.empty()
                               ? tr(" · fitted")
                               : tr(" · fitted, shared by the series %1").arg(QString::fromStdString(unit().recipe.series))));
        m_fitted->setEnabled(!fitted);
    }

    void fillWords() {
        const auto& b = base();
        QStringList words;
        if (b.fixed)
            words << (b.fixed->origin == FixedBase::Origin::Frozen
                          ? tr("Frozen on %1: settings have no effect until it is made from the holes again.")
                          : tr("Taken from %1: settings have no effect until it is made from the holes again."))
                         .arg(QString::fromStdString(b.fixed->from));
        words << tr("%1, %2 it (%3 in effect), %4.")
                     .arg(counted(b.contacts, "contact"), counted(b.bounds, "hole that only limits", "holes that only limit"),
                          counted(b.fit.activeBounds, "limit"), counted(qint64(b.in.guides), "guide point"));
        if (b.leaveOneOut.n > 0)
            words << tr("Leave-one-out error: %1 root mean square, %2 mean.")
                         .arg(metres(b.leaveOneOut.rmse), metres(b.leaveOneOut.bias));
        if (!b.isAutomatic() && b.reference == BaseReference::Trend)
            words << tr("Trend: where %1 is 1 m higher, its levels are %2 m %3.")
                         .arg(b.in.against.empty() ? tr("the smoothed ground")
                                                   : tr("the base of %1").arg(QString::fromStdString(b.in.against)))
                         .arg(std::abs(b.in.share), 0, 'f', 2)
                         .arg(b.in.share < 0 ? tr("lower") : tr("higher"));
        if (b.isAutomatic()) {
            QStringList parts;
            for (const auto& part : b.automatic->parts())
                parts << tr("%1 % %2").arg(100 * part.weight, 0, 'f', 0).arg(QString::fromUtf8(fox::words(part.kind)));
            words << tr("An average of: %1.").arg(parts.join("; "));
        }
        for (const auto& j : b.judged)
            if (b.judged.size() > 1 && !b.isAutomatic())
                words << (j.validationPoints == 0
                              ? tr("From %1: the holes are too few to leave one out.")
                                    .arg(QString::fromUtf8(fox::words(j.reference)))
                              : tr("From %1: thickness in %2 left-out holes in error by %3, presence wrong in %4.")
                                    .arg(QString::fromUtf8(fox::words(j.reference)))
                                    .arg(j.validationPoints)
                                    .arg(metres(j.error))
                                    .arg(j.presenceWrong));
        m_words->setText(words.join("\n"));
    }

    Frame coarse() const {
        auto frame = unit().recipe.grid.value_or(*products().frame);
        constexpr double kCells = 90; // across
        frame.cell = std::max(frame.xmax - frame.xmin, frame.ymax - frame.ymin) / kCells;
        return frame;
    }

    QString mapTitle(const QString& remark) const {
        return tr("Base of %1, levels%2").arg(QString::fromStdString(unit().name), remark);
    }

    void showMap(const Model& model, const QString& remark) {
        const auto key = std::tuple{products().model, unitIndex(), unit().recipe.grid};
        if (remark.isEmpty() && key == m_shown) return;
        m_shown = key;
        m_preview.start([model, u = unitIndex(), frame = coarse()](const Progress& p) { return levelsOf(model, u, frame, p); },
                        [this, remark](const Grid& grid) { m_map->setMap(grid, mapTitle(remark)); }, [](const QString&) {});
    }

    /// While the variogram is dragged: a coarse map of the base that it would make.
    void preview(const Variogram& v) {
        auto recipe = unit();
        recipe.recipe.settings.variogram = v;
        m_shown = {};
        m_preview.start(
            [model = *products().model, recipe, inputs = base().in, u = unitIndex(), frame = coarse()](const Progress& p) {
                return levelsOf(withBase(model, u, fitBase(recipe, {inputs}, p)), u, frame, p);
            },
            [this](const Grid& grid) { m_map->setMap(grid, mapTitle(tr(" (as dragged)"))); }, [](const QString&) {});
    }

    QFormLayout* m_form = new QFormLayout;
    QComboBox *m_method, *m_from, *m_against, *m_series, *m_model;
    QCheckBox *m_planeTyped, *m_bounds, *m_carried, *m_ownGrid;
    std::vector<std::pair<QDoubleSpinBox*, double Frame::*>> m_gridSides;
    QDoubleSpinBox *m_strike, *m_dip, *m_power, *m_radius, *m_azimuth, *m_ratio, *m_reach, *m_sector, *m_tolerance;
    std::string m_namedSeries;
    QSpinBox* m_neighbours;
    QWidget* m_variogramBox;
    VariogramChart* m_chart;
    QPushButton* m_fitted;
    QLabel* m_numbers;
    QLabel* m_words = new QLabel(this);
    GridMap* m_map = new GridMap(this);
    std::tuple<std::shared_ptr<const Model>, std::size_t, std::optional<Frame>>
        m_shown; ///< held, so that its address can't come to mean another
    bool m_filling = false;
    Background<Grid> m_preview; // last: it uses the above
};

} // namespace

SurfacePage* makeSettingsPage(QWidget* parent) { return new SettingsPage(parent); }

} // namespace fox::app
