#include "dialogs/export_dialog.h"

#include "base/errors.h"
#include "style/theme.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace fox::app {

ExportDialog::ExportDialog(std::shared_ptr<const ProductSet> products, const QString& folder, QWidget* parent)
    : QDialog(parent),
      m_products(std::move(products)),
      m_what(new QComboBox(this)),
      m_as(new QComboBox(this)),
      m_folder(new QLineEdit(folder, this)),
      m_result(new QLabel(this)) {
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
    auto* go = new QPushButton(tr("Export"), this);
    go->setProperty("main", true);
    go->setObjectName("exportButton");
    go->setDefault(true);
    auto* close = new QPushButton(tr("Close"), this);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(go);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(20, 16, 20, 16);
    form->setSpacing(10);
    form->addRow(tr("What"), m_what);
    form->addRow(tr("As"), m_as);
    form->addRow(tr("Into the folder"), folderRow);
    form->addRow(m_result);
    form->addRow(buttons);
    connect(m_what, &QComboBox::currentIndexChanged, this, &ExportDialog::fillFormats);
    connect(choose, &QPushButton::clicked, this, [this] {
        if (const auto to = QFileDialog::getExistingDirectory(this, tr("Folder for the files"), m_folder->text()); !to.isEmpty())
            m_folder->setText(to);
    });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(go, &QPushButton::clicked, this, &ExportDialog::write);
    fillFormats();
}

void ExportDialog::fillFormats() {
    static const std::map<std::string, const char*> kWords{{"tif", "GeoTIFF grid"},
                                                           {"asc", "ASCII grid"},
                                                           {"xyz", "XYZ text"},
                                                           {"gpkg", "GeoPackage"},
                                                           {"landxml", "LandXML 1.2 triangles"},
                                                           {"dxf", "DXF faces"},
                                                           {"obj", "OBJ triangles"},
                                                           {"ply", "PLY triangles"},
                                                           {"ags", "AGS 4.1"}};
    m_as->clear();
    for (const auto& as : exportKinds()[std::size_t(m_what->currentIndex())].as)
        m_as->addItem(tr(as == "dxf" && m_what->currentData() == "contours" ? "DXF lines" : kWords.at(as)),
                      QString::fromStdString(as));
}

void ExportDialog::write() {
    try {
        const auto files = exportFiles(*m_products, m_what->currentData().toString().toStdString(),
                                       m_as->currentData().toString().toStdString(), m_folder->text().toStdString());
        QStringList names;
        for (const auto& f : files) names << QString::fromStdString(f.filename().string());
        m_result->setStyleSheet({});
        m_result->setText(tr("Written: %1").arg(names.join(", ")));
    } catch (const Error& e) {
        m_result->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
        m_result->setText(QString::fromStdString(e.what()));
    }
}

} // namespace fox::app
