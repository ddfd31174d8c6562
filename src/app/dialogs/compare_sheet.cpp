#include "dialogs/compare_sheet.h"

#include "base/errors.h"
#include "base/files.h"
#include "dialogs/difference_histogram.h"
#include "dialogs/difference_map.h"
#include "formats/raster.h"
#include "style/theme.h"
#include "views/ask_file.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <fmt/format.h>
#include <mutex>

namespace fox::app {

CompareSheet::CompareSheet(std::shared_ptr<const ProductSet> products, QWidget* parent)
    : QDialog(parent),
      m_products(std::move(products)),
      m_first(new QComboBox(this)),
      m_second(new QComboBox(this)),
      m_outline(new QComboBox(this)),
      m_line(new QComboBox(this)),
      m_table(new QTableWidget(8, 2, this)),
      m_histogram(new DifferenceHistogram(this)),
      m_map(new DifferenceMap(this)),
      m_chart(new ProfileChart(this)),
      m_words(new QLabel(this)),
      m_save(new QPushButton(tr("Save the report…"), this)),
      m_work(this, tr("Comparing surfaces")) {
    setObjectName("compareSheet");
    setWindowTitle(tr("Compare two surfaces"));
    resize(900, 640);
    fillSurfaces();
    m_first->setObjectName("compareFirst");
    m_second->setObjectName("compareSecond");
    m_outline->setObjectName("compareOutline");
    m_outline->addItem(tr("everywhere"));
    for (const auto& o : m_products->project.ground->outlines) m_outline->addItem(QString::fromStdString(o.name));
    m_line->addItem(tr("none"));
    for (const auto& s : *m_products->project.sections) m_line->addItem(tr("section %1").arg(QString::fromStdString(s.name)));
    if (m_line->count() > 1) m_line->setCurrentIndex(1);
    m_table->setObjectName("compareTable");
    m_table->horizontalHeader()->hide();
    m_table->verticalHeader()->hide();
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->setColumnWidth(0, 190);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_words->setWordWrap(true);
    m_words->setProperty("muted", true);
    m_save->setObjectName("compareSave");
    m_save->setToolTip(tr("The volumes and the profile as CSV, the difference as a GeoTIFF beside it"));
    auto* close = new QPushButton(tr("Close"), this);
    auto* form = new QFormLayout;
    form->addRow(tr("First"), m_first);
    form->addRow(tr("less the second"), m_second);
    form->addRow(tr("Inside"), m_outline);
    form->addRow(tr("Profile along"), m_line);
    auto* left = new QVBoxLayout;
    left->addLayout(form);
    left->addWidget(m_table, 3);
    left->addWidget(m_histogram, 2);
    left->addWidget(m_words);
    auto* right = new QVBoxLayout;
    right->addWidget(m_map, 3);
    right->addWidget(m_chart, 2);
    auto* columns = new QHBoxLayout;
    columns->addLayout(left, 4);
    columns->addLayout(right, 5);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(m_save);
    buttons->addWidget(close);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->addLayout(columns, 1);
    layout->addLayout(buttons);
    for (auto* box : {m_first, m_second, m_outline, m_line})
        connect(box, &QComboBox::currentIndexChanged, this, &CompareSheet::compare);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_save, &QPushButton::clicked, this, &CompareSheet::save);
    compare();
}

CompareSheet::~CompareSheet() = default;

namespace {

ComparedSurface surfaceOf(const std::shared_ptr<const Terrain>& terrain) {
    return {[terrain](Point2 q) { return terrain->levelAt(q); }, terrain, boxOf(terrain->tin)};
}

/// The surface of a source of lines by itself (a design, say), triangulated once, whichever job asks first.
class OwnSurface {
public:
    OwnSurface(std::string file, TerrainInput input) : m_file(std::move(file)), m_input(std::move(input)) {}
    /// @throws Error if there is no triangle
    ComparedSurface made(const Progress& progress) {
        const std::scoped_lock one(m_making);
        if (!m_terrain) {
            auto terrain = std::make_shared<const Terrain>(makeTerrain(m_input, progress));
            if (terrain->tin.empty())
                throw Error(m_file + " alone makes no surface: three points with levels are needed that are not on one line.");
            m_terrain = std::move(terrain);
        }
        return surfaceOf(m_terrain);
    }

private:
    std::string m_file;
    TerrainInput m_input;
    std::mutex m_making;
    std::shared_ptr<const Terrain> m_terrain;
};

LevelAt levelsOfBase(const std::shared_ptr<const Model>& model, std::size_t unit) {
    return [model, unit](Point2 q) -> std::optional<double> {
        const auto bases = model->columnAt(q).bases;
        if (unit >= bases.size() || std::isnan(bases[unit])) return {};
        return bases[unit];
    };
}

} // namespace

void CompareSheet::fillSurfaces() {
    const auto& p = m_products;
    const auto add = [&](const QString& name, const ComparedSurface& surface) {
        m_surfaces.push_back({name, [surface](const Progress&) { return surface; }});
    };
    if (!p->terrain->empty()) {
        auto ground = surfaceOf(p->terrain);
        for (const auto& r : p->project.ground->rasters)
            if (const auto& f = r.grid->frame; r.used) ground.box.include({f.xmin, f.ymin}), ground.box.include({f.xmax, f.ymax});
        add(tr("Ground"), ground);
    }
    for (const auto& r : p->project.ground->rasters)
        add(QString::fromStdString(r.file), {[g = r.grid](Point2 q) { return bilinear(*g, q); }, nullptr, r.grid->frame.box()});
    for (const auto& s : p->project.ground->lines) {
        TerrainInput input;
        (s.role == LineRole::Contours ? input.contours : input.breaklines) = *s.lines;
        const auto own = std::make_shared<OwnSurface>(s.file, std::move(input));
        m_surfaces.push_back({tr("%1 alone").arg(QString::fromStdString(s.file)),
                              [own](const Progress& progress) { return own->made(progress); }});
    }
    if (p->model)
        for (std::size_t u = 0; u < p->model->bases.size(); ++u)
            add(tr("Base of %1").arg(QString::fromStdString(p->project.sequence->units[u].name)),
                {levelsOfBase(p->model, u), nullptr, {}});
    for (std::size_t i = 0; i < p->project.namedSurfaces->size() && i < p->namedSurfaces.size(); ++i) {
        const auto fitted = p->namedSurfaces[i]->fitted;
        add(QString::fromStdString((*p->project.namedSurfaces)[i].name), {[fitted](Point2 q) -> std::optional<double> {
                                                                              const double z = fitted->surface->at(q);
                                                                              return std::isnan(z) ? std::nullopt
                                                                                                   : std::optional(z);
                                                                          },
                                                                          nullptr, fitted->box});
    }
    for (const auto& s : m_surfaces) {
        m_first->addItem(s.name);
        m_second->addItem(s.name);
    }
    if (m_second->count() > 1) m_second->setCurrentIndex(1);
}

void CompareSheet::compare() {
    if (m_surfaces.size() < 2 || !m_products->frame) {
        m_words->setText(tr("There is only one surface. Import a grid, or another surface of triangles, to compare it with."));
        m_save->setEnabled(false);
        return;
    }
    const auto first = m_surfaces[std::size_t(m_first->currentIndex())],
               second = m_surfaces[std::size_t(m_second->currentIndex())];
    Area area;
    if (m_outline->currentIndex() > 0)
        area = m_products->project.ground->outlines[std::size_t(m_outline->currentIndex() - 1)].area();
    Polyline2 line;
    if (m_line->currentIndex() > 0) line = (*m_products->project.sections)[std::size_t(m_line->currentIndex() - 1)].line;
    m_words->setText(tr("Working it out…"));
    m_save->setEnabled(false);
    m_work.start(
        [first, second, area, line, frame = *m_products->frame](const Progress& progress) {
            const auto a = first.made(progress), b = second.made(progress);
            return Compared{compareSurfaces(a, b, comparisonFrame(frame, a, b, area), area, line, progress),
                            {first.name, second.name}};
        },
        [this](Compared c) { showResult(std::move(c)); },
        [this](const QString& sentence) {
            m_result.reset();
            m_table->clearContents();
            m_map->clear();
            m_histogram->setDifference(Grid());
            m_chart->setProfile({}, {}, {});
            m_words->setText(sentence);
        });
}

void CompareSheet::showResult(Compared c) {
    m_result = std::move(c);
    const auto& result = m_result->result;
    const auto& v = result.volumes;
    const auto differences = statisticsOf(result.difference);
    const std::pair<QString, QString> kRows[] = {
        {tr("Area compared"), QString::fromUtf8("%1 m²").arg(v.area, 0, 'f', 1)},
        {tr("First above (fill)"), QString::fromUtf8("%1 m³").arg(v.above, 0, 'f', 1)},
        {tr("First below (cut)"), QString::fromUtf8("%1 m³").arg(v.below, 0, 'f', 1)},
        {tr("Net"), QString::fromUtf8("%1 m³").arg(v.net(), 0, 'f', 1)},
        {tr("Only one has a level on"), QString::fromUtf8("%1 m²").arg(v.noValue, 0, 'f', 1)},
        {tr("Mean difference"), metres(differences.mean, 3)},
        {tr("Standard deviation"), metres(differences.deviation, 3)},
        {tr("From, to"), tr("%1 to %2").arg(metres(differences.least, 2), metres(differences.most, 2))}};
    for (int i = 0; i < int(std::size(kRows)); ++i) {
        m_table->setItem(i, 0, new QTableWidgetItem(kRows[i].first));
        auto* value = new QTableWidgetItem(kRows[i].second);
        value->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        m_table->setItem(i, 1, value);
    }
    m_words->setText(
        result.exact
            ? tr("Exact prisms between the two triangulations.")
            : tr("Sums over cells of %1 m; smaller cells (Site stage) count more finely.").arg(result.difference.frame.cell));
    m_map->setDifference(result.difference);
    m_histogram->setDifference(result.difference);
    m_chart->setProfile(result.profile, m_result->names[0], m_result->names[1]);
    m_save->setEnabled(true);
}

void CompareSheet::save() {
    const auto path = askSaveFile(this, tr("Save the comparison"), "tables", "comparison.csv", tr("CSV (*.csv)"), "csv", {"tif"});
    if (path.isEmpty() || !m_result) return;
    try {
        saveTo(path.toStdString());
        m_words->setText(tr("Saved %1, and the difference as a GeoTIFF beside it.").arg(path));
    } catch (const Error& e) {
        m_words->setText(QString::fromStdString(e.what()));
    }
}

void CompareSheet::saveTo(const std::filesystem::path& csv) {
    const auto& [v, exact, difference, profile] = m_result->result;
    auto out =
        fmt::format("first,{}\nsecond,{}\ninside,{}\nmethod,{}\narea m2,{:.3f}\nfirst above m3,{:.3f}\nfirst below m3,{:.3f}\n"
                    "net m3,{:.3f}\nonly one has a level m2,{:.3f}\n",
                    tableCell(m_result->names[0].toStdString()), tableCell(m_result->names[1].toStdString()),
                    tableCell(m_outline->currentText().toStdString()), exact ? "exact prisms" : "cells", v.area, v.above, v.below,
                    v.net(), v.noValue);
    if (!profile.chainage.empty()) out += "\nchainage m,first m,second m\n";
    const auto number = [](double value) { return std::isnan(value) ? std::string() : fmt::format("{:.3f}", value); };
    for (std::size_t i = 0; i < profile.chainage.size(); ++i)
        out += fmt::format("{:.2f},{},{}\n", profile.chainage[i], number(profile.first[i]), number(profile.second[i]));
    auto map = csv;
    map.replace_extension(".tif");
    ReplaceFiles outputs; // both or none
    outputs.add(csv, [&](const auto& scratch) { writeBytes(scratch, out); });
    outputs.add(map, [&](const auto& scratch) { writeRaster(scratch, difference, m_products->project.site->crs); });
    outputs.commit();
}

} // namespace fox::app
