#include "dialogs/volumes_sheet.h"

#include "base/errors.h"
#include "formats/raster.h"
#include "style/theme.h"
#include "style/words.h"
#include "surfaces/grid_surface.h"
#include "views/number_box.h"
#include "views/typical_level.h"

#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace fox::app {

namespace {

QString cubic(double v) { return std::isnan(v) ? QString(QChar(0x2013)) : QString::number(v, 'f', 0); }

} // namespace

VolumesSheet::VolumesSheet(std::shared_ptr<const ProductSet> products, QWidget* parent)
    : QDialog(parent),
      m_products(std::move(products)),
      m_outline(new QComboBox(this)),
      m_above(new QComboBox(this)),
      m_metres(new NumberBox(this)),
      m_surface(new QPushButton(tr("Choose a grid…"), this)),
      m_range(new QPushButton(tr("Work out P10 to P90"), this)),
      m_table(new QTableWidget(this)),
      m_words(new QLabel(this)),
      m_reading(this),
      m_counting(this),
      m_work(this, tr("Ranges of volumes")) {
    setObjectName("volumesSheet");
    setWindowTitle(tr("Volumes - Fox Cellar"));
    resize(820, 520);
    m_outline->setObjectName("volumesOutline");
    m_above->setObjectName("volumesAbove");
    m_metres->setObjectName("volumesMetres");
    m_range->setObjectName("volumesRange");
    m_table->setObjectName("volumesTable");
    m_words->setWordWrap(true);
    m_words->setObjectName("volumesWords");
    m_above->addItems({tr("everything"), tr("what lies above a level"), tr("what lies above a depth below ground"),
                       tr("what lies above a surface (a grid)")});
    m_above->setToolTip(tr("What a dig down to a level, a depth or a formation surface digs"));
    m_metres->setRange(-10000, 10000);
    m_metres->setDecimals(2);
    m_metres->setSuffix(tr(" m"));
    m_metres->setKeyboardTracking(false);
    m_metres->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_range->setToolTip(
        tr("100 equally likely models that keep to the holes; a tenth of them have less than P10, a tenth more than P90"));
    m_table->setColumnCount(8);
    m_table->setHorizontalHeaderLabels({tr("Unit"), tr("Volume, m³"), tr("Area, m²"), tr("Mean, m"), tr("Most, m"), tr("P10, m³"),
                                        tr("P50, m³"), tr("P90, m³")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    m_table->verticalHeader()->hide();
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setAlternatingRowColors(true);
    auto* aboveRow = new QHBoxLayout;
    aboveRow->addWidget(m_above, 1);
    aboveRow->addWidget(m_metres);
    aboveRow->addWidget(m_surface);
    auto* form = new QFormLayout;
    form->addRow(tr("Inside"), m_outline);
    form->addRow(tr("Of"), aboveRow);
    auto* copy = new QPushButton(tr("Copy the table"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_words, 1);
    buttons->addWidget(copy);
    buttons->addWidget(m_range);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 14, 18, 16);
    layout->addLayout(form);
    layout->addWidget(m_table, 1);
    layout->addLayout(buttons);
    connect(m_outline, &QComboBox::activated, this, [this] { workOut(); });
    connect(m_above, &QComboBox::activated, this, [this](int i) {
        if (Above(i) == Above::Level && m_metres->value() == 0) m_metres->setValue(typicalLevel(*m_products));
        if (Above(i) == Above::Surface && !m_given) return askSurface();
        workOut();
    });
    connect(m_metres, &QDoubleSpinBox::valueChanged, this, [this] { workOut(); });
    connect(m_surface, &QPushButton::clicked, this, &VolumesSheet::askSurface);
    connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(asText()); });
    connect(m_range, &QPushButton::clicked, this, [this] {
        m_range->setEnabled(false);
        m_range->setText(tr("Working…"));
        const int asked = m_asked; // a range of other settings than are shown by then is dropped
        m_work.start(
            [products = m_products, inside = area(), floorOn = floorMaker()](const Progress& p) {
                const auto floor = floorOn(*products->ground);
                return simulate(*products->model, *products->ground, EnsembleSettings{}, inside, p, floor ? &*floor : nullptr);
            },
            [this, asked](Ensemble e) {
                if (asked == m_asked) showRanges(e);
            },
            [this](const QString& why) {
                m_range->setEnabled(true);
                m_range->setText(tr("Work out P10 to P90"));
                if (!why.isEmpty()) emit failed(why);
            });
    });
    fill();
}

void VolumesSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    if (!products->modelGrid) return;
    m_products = std::move(products);
    fill();
}

void VolumesSheet::fill() {
    const auto now = m_outline->currentText();
    m_outline->clear();
    m_outline->addItem(tr("the whole site"));
    for (const auto& o : m_products->project.ground->outlines) m_outline->addItem(qt(o.name));
    m_outline->setCurrentIndex(std::max(0, m_outline->findText(now)));
    workOut();
}

Area VolumesSheet::area() const {
    const int i = m_outline->currentIndex() - 1;
    const auto& outlines = m_products->project.ground->outlines;
    return i >= 0 && i < int(outlines.size()) ? outlines[std::size_t(i)].area() : Area();
}

std::function<std::optional<Grid>(const Grid&)> VolumesSheet::floorMaker() const {
    const auto above = Above(m_above->currentIndex());
    if (above == Above::All || (above == Above::Surface && !m_given)) return [](const Grid&) { return std::optional<Grid>(); };
    if (above == Above::Surface)
        return [given = m_given](const Grid& ground) { return std::optional(onFrame(*given, ground.frame)); };
    return [metres = m_metres->value(), level = above == Above::Level](const Grid& ground) {
        Grid floor(ground.frame);
        for (std::size_t i = 0; i < floor.values.size(); ++i) floor.values[i] = level ? metres : ground.values[i] - metres;
        return std::optional(std::move(floor));
    };
}

void VolumesSheet::workOut() {
    ++m_asked;
    const auto above = Above(m_above->currentIndex());
    m_metres->setVisible(above == Above::Level || above == Above::Depth);
    m_surface->setVisible(above == Above::Surface);
    m_surface->setText(m_given ? m_givenName : tr("Choose a grid…"));
    m_range->setEnabled(true);
    m_range->setText(tr("Work out P10 to P90"));
    m_counting.start(
        [products = m_products, inside = area(), floorOn = floorMaker()](const Progress&) {
            const auto floor = floorOn(*products->ground);
            return floor ? volumesAbove(*products->modelGrid, *floor, inside) : volumesOf(*products->modelGrid, inside);
        },
        [this](const Volumes& v) { showVolumes(v); }, [this](const QString& why) { emit failed(why); });
}

void VolumesSheet::showVolumes(const Volumes& v) {
    m_volumes = v;
    const auto& units = m_products->project.sequence->units;
    m_table->setRowCount(int(v.units.size()) + 1);
    double all = 0;
    const auto set = [this](int row, int column, const QString& text) {
        auto* item = new QTableWidgetItem(text);
        if (column > 0) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter), item->setFont(figureFont());
        m_table->setItem(row, column, item);
        return item;
    };
    for (int row = 0; row < int(v.units.size()); ++row) {
        const auto& u = v.units[std::size_t(row)];
        set(row, 0, qt(units[u.unit].code) + "  " + qt(units[u.unit].name))->setIcon(QIcon(swatch(units[u.unit])));
        set(row, 1, cubic(u.volume));
        set(row, 2, cubic(u.area));
        set(row, 3, QString::number(u.meanThickness, 'f', 2));
        set(row, 4, QString::number(u.maxThickness, 'f', 2));
        for (int c = 5; c < 8; ++c) set(row, c, QString(QChar(0x2013)));
        all += u.volume;
    }
    const int last = int(v.units.size());
    set(last, 0, tr("Total"));
    set(last, 1, cubic(all));
    set(last, 2, cubic(v.area));
    for (int c = 3; c < 8; ++c) set(last, c, {});
    m_words->setText(tr("By cells of %1 m. The oldest unit, having no base, counts only above a level or surface.")
                         .arg(m_products->ground->frame.cell));
}

void VolumesSheet::showRanges(const Ensemble& e) {
    m_range->setText(tr("P10 to P90 of %1 models").arg(e.count));
    std::vector<double> all(std::size_t(e.count), 0.0);
    QStringList outside;
    for (int row = 0; row < int(m_volumes.units.size()); ++row) {
        const auto u = m_volumes.units[std::size_t(row)].unit;
        const auto& volumes = u < e.units.size() ? e.units[u].volumes : e.oldestVolumes;
        for (std::size_t r = 0; r < volumes.size(); ++r) all[r] += volumes[r];
        const auto range = rangeOf(volumes);
        for (const auto& [column, v] : {std::pair{5, range.p10}, {6, range.p50}, {7, range.p90}})
            m_table->item(row, column)->setText(cubic(v));
        if (const double own = m_volumes.units[std::size_t(row)].volume; !range.contains(own)) {
            m_table->item(row, 1)->setForeground(colour::red);
            outside << qt(m_products->project.sequence->units[u].code);
        }
    }
    if (!outside.isEmpty())
        m_words->setText(tr("%1: the model's own volume lies outside the range of its realisations. There the surfaces and the "
                            "realisations judge differently where the unit is present.")
                             .arg(outside.join(", ")));
    const auto range = rangeOf(all);
    for (const auto& [column, v] : {std::pair{5, range.p10}, {6, range.p50}, {7, range.p90}})
        m_table->item(m_table->rowCount() - 1, column)->setText(cubic(v));
}

QString VolumesSheet::asText() const {
    QStringList lines;
    for (int row = -1; row < m_table->rowCount(); ++row) {
        QStringList cells;
        for (int c = 0; c < m_table->columnCount(); ++c)
            cells << (row < 0 ? m_table->horizontalHeaderItem(c)->text() : m_table->item(row, c)->text());
        lines << cells.join('\t');
    }
    return lines.join('\n');
}

void VolumesSheet::takeSurface(const QString& file) {
    m_reading.start(
        [path = file.toStdString(), crs = m_products->project.site->crs](const Progress&) {
            GivenSurface out;
            out.levels = std::make_shared<const Grid>(readRasterIn(path, crs, {}, out.findings).grid);
            return out;
        },
        [this, name = QFileInfo(file).fileName()](const GivenSurface& read) {
            m_given = read.levels;
            m_givenName = name;
            m_above->setCurrentIndex(int(Above::Surface));
            if (!read.findings.empty()) emit failed(qt(read.findings.front().message));
            workOut();
        },
        [this](const QString& why) {
            emit failed(why);
            leaveSurface();
        });
}

/// Without a surface everything is counted.
void VolumesSheet::leaveSurface() {
    if (!m_given) m_above->setCurrentIndex(0);
    workOut();
}

void VolumesSheet::askSurface() {
    const auto path = QFileDialog::getOpenFileName(this, tr("Above which surface?"), {},
                                                   tr("Grids (*.tif *.tiff *.asc *.xyz *.gpkg);;All files (*)"));
    path.isEmpty() ? leaveSurface() : takeSurface(path);
}

} // namespace fox::app
