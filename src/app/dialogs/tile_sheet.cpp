#include "dialogs/tile_sheet.h"

#include "base/errors.h"
#include "style/theme.h"
#include "views/number_box.h"

#include <QComboBox>
#include <QDir>
#include <QFormLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

namespace fox::app {

namespace {
constexpr double kJobSeconds = 1.2; // the stand-ins take a moment, as a real service would
}

TileSheet::TileSheet(const Project& project, const Box2& rectangle, const QString& folder, QWidget* parent)
    : QDialog(parent),
      m_crs(project.site->crs),
      m_folder(folder),
      m_elevation(standInElevationService(kJobSeconds)),
      m_map(standInMapService(kJobSeconds)),
      m_offer(new QComboBox(this)),
      m_note(new QLabel(this)),
      m_size(new QLabel(this)),
      m_progress(new QProgressBar(this)),
      m_fetch(new QPushButton(tr("Get it"), this)),
      m_stop(new QPushButton(tr("Stop"), this)),
      m_draw(new QPushButton(tr("Draw the rectangle on the plan…"), this)),
      m_work(this, tr("Fetching tiles")) {
    setObjectName("tileSheet");
    setWindowTitle(tr("Elevation grid or map"));
    setMinimumWidth(520);
    for (const auto& o : m_elevation->offers()) m_offers.emplace_back(o, false);
    for (const auto& o : m_map->offers()) m_offers.emplace_back(o, true);
    for (const auto& [offer, isMap] : m_offers) m_offer->addItem(QString::fromStdString(offer.name));
    m_offer->setObjectName("tileOffer");
    m_note->setWordWrap(true);
    m_note->setProperty("muted", true);
    m_size->setWordWrap(true);
    m_size->setObjectName("tileSize");
    m_progress->setRange(0, 1000);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(8);
    m_fetch->setProperty("main", true);
    m_fetch->setObjectName("tileFetch");
    m_fetch->setDefault(true);
    m_stop->setObjectName("tileStop");
    m_draw->setObjectName("tileDraw");
    auto* sides = new QGridLayout;
    const QString names[] = {tr("west"), tr("south"), tr("east"), tr("north")};
    for (int i = 0; i < 4; ++i) {
        m_sides[i] = new NumberBox(this);
        m_sides[i]->setObjectName(QString("tileSide%1").arg(i));
        m_sides[i]->setRange(-2e7, 2e7);
        m_sides[i]->setDecimals(0);
        m_sides[i]->setSuffix(tr(" m"));
        m_sides[i]->setButtonSymbols(QAbstractSpinBox::NoButtons);
        m_sides[i]->setAccessibleName(names[i]);
        sides->addWidget(new QLabel(names[i], this), i / 2, (i % 2) * 2);
        sides->addWidget(m_sides[i], i / 2, (i % 2) * 2 + 1);
        connect(m_sides[i], &QDoubleSpinBox::valueChanged, this, &TileSheet::showSize);
    }
    auto* close = new QPushButton(tr("Close"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_progress, 1);
    buttons->addWidget(m_stop);
    buttons->addWidget(close);
    buttons->addWidget(m_fetch);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(20, 16, 20, 16);
    form->setSpacing(10);
    form->addRow(tr("What"), m_offer);
    form->addRow(QString(), m_note);
    form->addRow(tr("Rectangle"), sides);
    form->addRow(QString(), m_draw);
    form->addRow(tr("It will be"), m_size);
    form->addRow(buttons);
    connect(m_offer, &QComboBox::currentIndexChanged, this, &TileSheet::showSize);
    connect(m_fetch, &QPushButton::clicked, this, &TileSheet::fetch);
    connect(m_stop, &QPushButton::clicked, this, [this] { m_work.stop(); });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_draw, &QPushButton::clicked, this, &TileSheet::rectangleAsked);
    setBusy(false);
    setRectangle(rectangle);
}

TileSheet::~TileSheet() = default;

Box2 TileSheet::rectangle() const { return {m_sides[0]->value(), m_sides[1]->value(), m_sides[2]->value(), m_sides[3]->value()}; }

void TileSheet::setRectangle(const Box2& b) {
    const double values[] = {b.xmin, b.ymin, b.xmax, b.ymax};
    for (int i = 0; i < 4; ++i)
        if (std::isfinite(values[i])) m_sides[i]->setValue(std::round(values[i]));
    showSize();
}

void TileSheet::showSize() {
    const auto& offer = m_offers[std::size_t(m_offer->currentIndex())].first;
    m_note->setText(QString::fromStdString(offer.note));
    try {
        const auto size = sizeOf(offer, {rectangle(), m_crs});
        m_size->setStyleSheet({});
        m_size->setText(tr("%1 x %2 cells of %3 m, %4 MB in memory")
                            .arg(size.columns)
                            .arg(size.rows)
                            .arg(offer.cell)
                            .arg(size.megabytes, 0, 'f', size.megabytes < 10 ? 2 : 0));
        m_fetch->setEnabled(!m_work.busy());
    } catch (const Error& e) {
        m_size->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
        m_size->setText(QString::fromStdString(e.what()));
        m_fetch->setEnabled(false);
    }
}

void TileSheet::setBusy(bool busy) {
    m_progress->setVisible(busy);
    m_stop->setVisible(busy);
    m_fetch->setEnabled(!busy);
}

void TileSheet::fetch() {
    const auto [offer, isMap] = m_offers[std::size_t(m_offer->currentIndex())];
    const TileRequest request{rectangle(), m_crs};
    const auto path = QString("%1/%2_%3_%4.tif")
                          .arg(m_folder, QString::fromStdString(offer.id))
                          .arg(std::int64_t(request.box.xmin))
                          .arg(std::int64_t(request.box.ymin));
    setBusy(true);
    m_work.start(
        [elevation = m_elevation, map = m_map, o = offer, isMap = isMap, request, path](const Progress& progress) {
            QDir().mkpath(QFileInfo(path).absolutePath());
            if (isMap) {
                writePicture(path.toStdString(), map->fetch(o, request, progress));
            } else {
                const auto tile = elevation->fetch(o, request, progress);
                writeRaster(path.toStdString(), tile.grid, tile.crs);
            }
            return path;
        },
        [this](const QString& made) {
            setBusy(false);
            emit tileMade(made);
            accept();
        },
        [this](const QString& sentence) {
            setBusy(false);
            m_size->setText(sentence.isEmpty() ? tr("Stopped. Nothing was kept.") : sentence);
        },
        [this](double fraction, const QString&) { m_progress->setValue(int(fraction * 1000)); });
}

} // namespace fox::app
