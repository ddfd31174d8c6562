#include "dialogs/water_sheet.h"

#include "dialogs/grid_map.h"
#include "project/water_edits.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/water_choice_box.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>

namespace fox::app {

namespace {

enum Column { Point, Level, ResponseIn, kColumns };
constexpr int kAutomatic = -1;

} // namespace

WaterSheet::WaterSheet(QWidget* parent)
    : QDialog(parent),
      m_name(new QLineEdit),
      m_reading(new WaterChoiceBox({})),
      m_unit(new QComboBox),
      m_method(new QComboBox),
      m_shows(new QComboBox),
      m_reach(new NumberBox),
      m_points(new QTableWidget(0, kColumns)),
      m_map(new GridMap),
      m_facts(new QLabel) {
    setObjectName("waterSheet");
    setWindowTitle(tr("Water surface"));
    resize(900, 560);
    m_name->setObjectName("waterName");
    m_unit->setObjectName("waterUnit");
    m_unit->setToolTip(tr("Points are used whose response zone lies in this unit; each can be chosen in the list"));
    m_method->setObjectName("waterMethod");
    m_method->setToolTip(tr("In brackets the leave-one-out error: each point predicted from all others"));
    m_shows->setObjectName("waterShows");
    m_shows->addItems({tr("Level"), tr("Depth below ground")});
    m_reach->setObjectName("waterReach");
    m_reach->setRange(0, 100000);
    m_reach->setDecimals(0);
    m_reach->setSuffix(tr(" m"));
    m_reach->setSpecialValueText(tr("no limit"));
    m_reach->setKeyboardTracking(false);
    m_reach->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_reach->setToolTip(tr("No level farther than this from all points"));
    m_points->setObjectName("waterPoints");
    m_points->setHorizontalHeaderLabels({tr("Point"), tr("Level, m"), tr("Response zone in")});
    m_points->verticalHeader()->hide();
    m_points->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_points->horizontalHeader()->setStretchLastSection(true);
    m_points->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_points->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_map->setEmptyWords(tr("No level yet: no point that is used has a reading, or the project has no extent."));
    m_facts->setObjectName("waterFacts");
    m_facts->setWordWrap(true);

    auto* form = new QFormLayout;
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("Reading"), m_reading);
    form->addRow(tr("Water in"), m_unit);
    form->addRow(tr("Method"), m_method);
    form->addRow(tr("Maximum distance"), m_reach);
    auto* left = new QVBoxLayout;
    left->addLayout(form);
    left->addWidget(m_points, 1);
    auto* right = new QVBoxLayout;
    auto* shows = new QHBoxLayout;
    shows->addWidget(m_shows);
    auto* onPlan = new QPushButton(tr("Show on the plan"));
    onPlan->setObjectName("waterOnPlan");
    shows->addWidget(onPlan);
    shows->addStretch(1);
    right->addLayout(shows);
    right->addWidget(m_map, 1);
    auto* both = new QHBoxLayout;
    both->addLayout(left, 2);
    both->addLayout(right, 3);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* remove = buttons->addButton(tr("Remove"), QDialogButtonBox::DestructiveRole);
    remove->setObjectName("waterRemove");
    auto* all = new QVBoxLayout(this);
    all->addLayout(both, 1);
    all->addWidget(m_facts);
    all->addWidget(buttons);

    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
    connect(m_name, &QLineEdit::editingFinished, this, &WaterSheet::rename);
    connect(m_reading, &WaterChoiceBox::chosen, this,
            [this](const WaterChoice& choice) { change([choice](WaterSurface& s) { s.reading = choice; }, fox::words(choice)); });
    connect(m_unit, &QComboBox::activated, this, [this] {
        const auto code = m_unit->currentData().toString().toStdString();
        change([code](WaterSurface& s) { s.unit = code, s.points.clear(); }, code.empty() ? "all points" : "water in " + code);
    });
    connect(m_method, &QComboBox::activated, this, [this] {
        const int method = m_method->currentData().toInt();
        change([method](WaterSurface& s) { s.method = method == kAutomatic ? std::nullopt : std::optional(Method(method)); },
               "method");
    });
    connect(m_reach, &QDoubleSpinBox::valueChanged, this, [this](double metres) {
        change([metres](WaterSurface& s) { s.reach = metres > 0 ? std::optional(metres) : std::nullopt; }, "maximum distance");
    });
    connect(m_shows, &QComboBox::activated, this, [this] { fill(); });
    connect(m_points, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (m_filling || item->column() != Point) return;
        const bool used = item->checkState() == Qt::Checked;
        change([name = item->text().toStdString(), used](WaterSurface& s) { s.points[name] = used; },
               (used ? "use " : "do not use ") + item->text().toStdString());
    });
    connect(m_points, &QTableWidget::cellDoubleClicked, this,
            [this](int row, int) { emit holeChosen(m_points->item(row, Point)->data(Qt::UserRole).toString()); });
    connect(onPlan, &QPushButton::clicked, this, [this] { emit showAsked(m_surface, m_shows->currentIndex() == 1); });
    connect(remove, &QPushButton::clicked, this, [this] {
        emit editMade([name = m_surface.toStdString()](const Project& p) { return removeWaterSurface(p, name); });
    });
}

void WaterSheet::setSurface(const QString& name) { m_surface = name; }

void WaterSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    const auto before = m_products;
    m_products = std::move(products);
    const auto& now = *m_products->project.waterSurfaces;
    const auto has = [](const std::vector<WaterSurface>& all, const std::string& name) {
        return std::ranges::count(all, name, &WaterSurface::name) > 0;
    };
    if (!has(now, m_surface.toStdString())) {
        // renamed, or gone
        if (before && before->project.waterSurfaces->size() == now.size())
            for (const auto& s : now)
                if (!has(*before->project.waterSurfaces, s.name)) emit renamed(std::exchange(m_surface, qt(s.name)), qt(s.name));
        if (!has(now, m_surface.toStdString())) return void(close());
    }
    fill();
}

void WaterSheet::rename() {
    const auto to = m_name->text().trimmed().toStdString();
    if (!m_name->isModified() || to == m_surface.toStdString()) return;
    m_name->setModified(false);
    emit editMade([name = m_surface.toStdString(), to](const Project& p) { return renameWaterSurface(p, name, to); });
    if (m_products) m_name->setText(m_surface); // it follows when the edit is made; one that is refused changes nothing
}

void WaterSheet::change(const std::function<void(WaterSurface&)>& what, const std::string& words) {
    if (m_filling) return;
    emit editMade(
        [name = m_surface.toStdString(), what, words](const Project& p) { return changeWaterSurface(p, name, what, words); });
}

void WaterSheet::fill() {
    const auto& all = *m_products->project.waterSurfaces;
    const auto at = std::ranges::find(all, m_surface.toStdString(), &WaterSurface::name);
    const auto index = std::size_t(at - all.begin());
    if (at == all.end() || index >= m_products->waterSurfaces.size()) return;
    const auto& product = *m_products->waterSurfaces[index];
    m_filling = true;
    if (!m_name->isModified()) m_name->setText(qt(at->name));
    setWindowTitle(tr("Water surface: %1").arg(qt(at->name)));
    auto reading = at->reading;
    if (reading.date.empty()) reading.date = usualDate(*m_products->project.holes); // where "at a date" starts
    m_reading->setChoice(reading);
    m_reach->setValue(at->reach.value_or(0));
    fillUnits(*at);
    fillMethods(*at, *product.fitted);
    fillPoints(*product.fitted);
    fillMap(product);
    m_facts->setText(factsOf(product));
    m_filling = false;
}

void WaterSheet::fillUnits(const WaterSurface& surface) {
    m_unit->clear();
    m_unit->addItem(tr("any unit: all points"), QString());
    for (const auto& u : m_products->project.sequence->units)
        m_unit->addItem(QString("%1  %2").arg(qt(u.code), qt(u.name)), qt(u.code));
    const auto code = qt(surface.unit);
    if (m_unit->findData(code) < 0) m_unit->addItem(tr("%1 (no longer in the sequence)").arg(code), code);
    m_unit->setCurrentIndex(m_unit->findData(code));
}

void WaterSheet::fillMethods(const WaterSurface& surface, const FittedWaterSurface& fitted) {
    m_method->clear();
    m_method->addItem(tr("automatic: %1").arg(QString::fromUtf8(fox::words(fitted.fit.settings.method))), kAutomatic);
    for (const auto method : allMethods()) {
        const auto error = std::ranges::find(fitted.errors, method, &std::pair<Method, double>::first);
        const auto words = QString::fromUtf8(fox::words(method));
        m_method->addItem(error == fitted.errors.end() ? words : tr("%1 (± %2 m)").arg(words).arg(error->second, 0, 'f', 2),
                          int(method));
    }
    m_method->setCurrentIndex(m_method->findData(surface.method ? int(*surface.method) : kAutomatic));
}

void WaterSheet::fillPoints(const FittedWaterSurface& fitted) {
    m_points->setRowCount(int(fitted.points.size()));
    const auto& units = m_products->project.sequence->units;
    for (int row = 0; row < int(fitted.points.size()); ++row) {
        const auto& p = fitted.points[std::size_t(row)];
        auto* point = new QTableWidgetItem(qt(p.name));
        point->setFlags(point->flags() | Qt::ItemIsUserCheckable);
        point->setCheckState(p.used ? Qt::Checked : Qt::Unchecked);
        point->setData(Qt::UserRole, qt(p.hole));
        point->setToolTip(tr("Ticked: it is used. Double-click: its hole"));
        m_points->setItem(row, Point, point);
        m_points->setItem(row, Level, new QTableWidgetItem(p.place ? QString::number(p.place->z, 'f', 2) : tr("none")));
        const bool known = p.unit && *p.unit < units.size();
        m_points->setItem(row, ResponseIn, new QTableWidgetItem(known ? qt(units[*p.unit].name) : tr("not known")));
    }
}

void WaterSheet::fillMap(const WaterProduct& product) {
    const bool depth = m_shows->currentIndex() == 1;
    const auto& grid = depth ? product.depths : product.levels;
    m_map->setMap(grid ? *grid : Grid(), depth ? tr("Depth below ground, m") : tr("Level, m"));
}

QString WaterSheet::factsOf(const WaterProduct& product) const {
    const auto& fit = product.fitted->fit;
    const auto& points = product.fitted->points;
    if (fit.data.empty()) return tr("None of %1 is used and has a level.").arg(counted(qint64(points.size()), "point"));
    const auto [low, high] = std::ranges::minmax_element(fit.data, {}, &Point3::z);
    const auto used = std::ranges::count_if(points, [](const WaterPoint& p) { return p.used && p.place; });
    QStringList facts{tr("%1 of %2, levels %3 to %4 m")
                          .arg(used)
                          .arg(counted(qint64(points.size()), "point"))
                          .arg(low->z, 0, 'f', 2)
                          .arg(high->z, 0, 'f', 2)};
    const auto& error = fit.leaveOneOut;
    facts << (error.n > 0 && std::isfinite(error.rmse)
                  ? tr("leave-one-out error %1 m (%2)").arg(error.rmse, 0, 'f', 2).arg(counted(error.n, "point"))
                  : tr("too few points to judge the method"));
    if (fit.merged > 0) facts << tr("several points at one position count with their mean");
    if (product.aboveGround > 0)
        facts << tr("it stands above the ground over %1 m²").arg(QLocale(QLocale::English).toString(product.aboveGround, 'f', 0));
    return facts.join(QString::fromUtf8(" · "));
}

} // namespace fox::app
