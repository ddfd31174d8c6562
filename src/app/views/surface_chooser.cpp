#include "views/surface_chooser.h"

#include "views/block_surfaces.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {
enum Column { Shown, Colour, Opacity, Contours };
}

SurfaceChooser::SurfaceChooser(const Project& project, std::vector<SceneSurface> shown, QWidget* parent)
    : QDialog(parent), m_table(new QTableWidget(0, 4, this)) {
    setObjectName("surfaceChooser");
    setWindowTitle(tr("Surfaces in 3D"));
    resize(560, 420);
    m_table->setObjectName("surfaces");
    m_table->setAccessibleName(tr("Surfaces in 3D"));
    m_table->setHorizontalHeaderLabels({tr("Surface"), tr("Coloured by"), tr("Opacity"), tr("Contours")});
    m_table->verticalHeader()->hide();
    m_table->horizontalHeader()->setSectionResizeMode(Shown, QHeaderView::Stretch);
    m_table->setColumnWidth(Colour, 130);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->setShowGrid(false);
    for (const auto& [surface, words] : sceneSurfaces(project)) {
        const auto at = std::ranges::find_if(shown, [&s = surface](const SceneSurface& o) { return o.isSame(s); });
        addRow(at == shown.end() ? surface : *at, words, at != shown.end());
    }
    auto* close = new QPushButton(tr("Close"), this);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(m_table, 1);
    layout->addWidget(close, 0, Qt::AlignRight);
}

void SurfaceChooser::addRow(const SceneSurface& surface, const QString& words, bool isShown) {
    const int row = m_table->rowCount();
    m_table->insertRow(row);
    m_rows.push_back(surface);
    auto* tick = new QCheckBox(words, m_table);
    tick->setObjectName(QString("surface%1").arg(row));
    tick->setChecked(isShown);
    auto* colour = new QComboBox(m_table);
    colour->setObjectName(QString("surfaceColour%1").arg(row));
    const bool isUnits = surface.of == SceneSurface::Of::Base || surface.of == SceneSurface::Of::Top;
    colour->addItem(isUnits ? tr("unit") : tr("one colour"));
    colour->addItem(tr("level"));
    if (isUnits) colour->addItems({tr("thickness"), tr("standard deviation")});
    colour->setCurrentIndex(int(surface.colouring));
    colour->setToolTip(tr("What %1 is coloured by").arg(words));
    auto* opacity = new QSlider(Qt::Horizontal, m_table);
    opacity->setObjectName(QString("surfaceOpacity%1").arg(row));
    opacity->setRange(10, 100);
    opacity->setValue(int(std::lround(100 * surface.opacity)));
    opacity->setAccessibleName(tr("Opacity of %1").arg(words));
    auto* contours = new QCheckBox(m_table);
    contours->setObjectName(QString("surfaceContours%1").arg(row));
    contours->setChecked(surface.contours);
    contours->setAccessibleName(tr("Contours on %1").arg(words));
    m_table->setCellWidget(row, Shown, tick);
    m_table->setCellWidget(row, Colour, colour);
    m_table->setCellWidget(row, Opacity, opacity);
    m_table->setCellWidget(row, Contours, contours);
    const auto shows = [this, tick] { // who changes how it looks wants to see it
        if (!tick->isChecked()) return tick->setChecked(true);
        take();
    };
    connect(tick, &QCheckBox::toggled, this, &SurfaceChooser::take);
    connect(colour, &QComboBox::activated, this, shows);
    connect(opacity, &QSlider::valueChanged, this, shows);
    connect(contours, &QCheckBox::toggled, this, shows);
}

void SurfaceChooser::take() {
    std::vector<SceneSurface> out;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        if (!qobject_cast<QCheckBox*>(m_table->cellWidget(row, Shown))->isChecked()) continue;
        auto surface = m_rows[std::size_t(row)];
        surface.colouring = SceneSurface::Colouring(qobject_cast<QComboBox*>(m_table->cellWidget(row, Colour))->currentIndex());
        surface.opacity = qobject_cast<QSlider*>(m_table->cellWidget(row, Opacity))->value() / 100.0;
        surface.contours = qobject_cast<QCheckBox*>(m_table->cellWidget(row, Contours))->isChecked();
        out.push_back(surface);
    }
    emit chosen(out);
}

} // namespace fox::app
