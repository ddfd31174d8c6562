#include "dialogs/export_dialog.h"

#include "style/theme.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <QPushButton>

namespace fox::app {

ExportDialog::ExportDialog(Ask ask, const QString& folder, QWidget* parent)
    : QDialog(parent),
      m_ask(std::move(ask)),
      m_what(new QComboBox(this)),
      m_as(new QComboBox(this)),
      m_map(new QComboBox(this)),
      m_metres(new QDoubleSpinBox(this)),
      m_folder(new QLineEdit(folder, this)),
      m_result(new QLabel(this)),
      m_go(new QPushButton(tr("Export"), this)),
      m_work(this) {
    setObjectName("exportDialog");
    setWindowTitle(tr("Export"));
    setModal(true);
    setMinimumWidth(520);
    for (const auto& k : exportKinds()) m_what->addItem(tr(k.words), k.what);
    m_result->setWordWrap(true);
    m_result->setObjectName("exportResult");
    auto* choose = new QPushButton(tr("Choose…"), this);
    auto* folderRow = new QHBoxLayout;
    folderRow->addWidget(m_folder, 1);
    folderRow->addWidget(choose);
    m_what->setObjectName("exportWhat");
    m_as->setObjectName("exportAs");
    m_map->setObjectName("exportMap");
    m_map->addItems({tr("at the ground"), tr("at a level"), tr("at a depth below ground")});
    m_metres->setRange(-10000, 10000);
    m_metres->setSuffix(tr(" m"));
    m_metres->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_go->setProperty("main", true);
    m_go->setObjectName("exportButton");
    m_go->setDefault(true);
    auto* close = new QPushButton(tr("Close"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(m_go);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(20, 16, 20, 16);
    form->setSpacing(10);
    form->addRow(tr("What"), m_what);
    form->addRow(tr("As"), m_as);
    auto* mapRow = new QHBoxLayout;
    mapRow->addWidget(m_map, 1);
    mapRow->addWidget(m_metres);
    form->addRow(tr("Units"), mapRow);
    form->addRow(tr("Into the folder"), folderRow);
    form->addRow(m_result);
    form->addRow(buttons);
    connect(m_what, &QComboBox::currentIndexChanged, this, &ExportDialog::fillFormats);
    connect(choose, &QPushButton::clicked, this, [this] {
        if (const auto to = QFileDialog::getExistingDirectory(this, tr("Folder for the files"), m_folder->text()); !to.isEmpty())
            m_folder->setText(to);
    });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_go, &QPushButton::clicked, this, &ExportDialog::write);
    connect(m_map, &QComboBox::currentIndexChanged, m_metres, [this](int i) { m_metres->setEnabled(i > 0); });
    m_metres->setEnabled(false);
    fillFormats();
}

void ExportDialog::fillFormats() {
    static const std::map<std::string, const char*> kWords{{"tif", "GeoTIFF grid"},
                                                           {"asc", "ASCII grid"},
                                                           {"xyz", "XYZ text"},
                                                           {"gpkg", "GeoPackage"},
                                                           {"landxml", "LandXML 1.2 triangles"},
                                                           {"dxf", "DXF"},
                                                           {"obj", "OBJ triangles"},
                                                           {"ply", "PLY triangles"},
                                                           {"vtu", "VTU cells"},
                                                           {"pdf", "PDF page"},
                                                           {"svg", "SVG picture"},
                                                           {"png", "PNG picture"},
                                                           {"csv", "CSV table"},
                                                           {"ags", "AGS 4.1"}};
    m_as->clear();
    for (const auto& as : exportKinds()[std::size_t(m_what->currentIndex())].as)
        m_as->addItem(tr(kWords.at(as)), QString::fromStdString(as));
    const bool map = m_what->currentData() == "map";
    static_cast<QFormLayout*>(layout())->setRowVisible(2, map);
}

void ExportDialog::write() {
    said(tr("Writing…"), false);
    m_go->setEnabled(false);
    m_waiting = true;
    m_ask(exportKinds()[std::size_t(m_what->currentIndex())].needs,
          [self = QPointer(this)](std::shared_ptr<const ProductSet> products) {
              if (self) self->writeWith(std::move(products));
          });
}

void ExportDialog::writeWith(std::shared_ptr<const ProductSet> products) {
    m_waiting = false;
    if (!products) return said(tr("Nothing was written: the work was stopped. Press Export to try again."), true);
    ExportOptions options;
    options.map = {MapSurface::Kind(m_map->currentIndex()), m_metres->value()};
    m_work.start([products = std::move(products), what = m_what->currentData().toString().toStdString(),
                  as = m_as->currentData().toString().toStdString(), folder = m_folder->text().toStdString(),
                  options](const Progress&) { return exportFiles(*products, what, as, folder, options); },
                 [this](const Files& files) {
                     QStringList names;
                     constexpr std::size_t kShown = 12;
                     for (std::size_t i = 0; i < std::min(kShown, files.size()); ++i)
                         names << QString::fromStdString(files[i].filename().string());
                     if (files.size() > kShown) names << tr("and %1 more").arg(files.size() - kShown);
                     said(tr("Written: %1").arg(names.join(", ")), false);
                 },
                 [this](const QString& why) { said(why, true); });
}

void ExportDialog::said(const QString& words, bool isFault) {
    m_go->setEnabled(true);
    m_result->setStyleSheet(isFault ? QString("color: %1;").arg(colour::red.name()) : QString());
    m_result->setText(words);
}

} // namespace fox::app
