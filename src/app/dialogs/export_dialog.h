#pragma once
#include "handover/export_files.h"
#include "views/background.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace fox::app {

/// Asks what to hand on, as what and where, and writes it beside the window.
class ExportDialog : public QDialog {
    Q_OBJECT
public:
    ExportDialog(std::shared_ptr<const ProductSet>, const QString& folder, QWidget* parent);
    bool settled() const { return !m_work.busy(); }

private:
    void fillFormats();
    void write();
    void said(const QString& words, bool isFault);

    std::shared_ptr<const ProductSet> m_products;
    QComboBox *m_what, *m_as, *m_map;
    QDoubleSpinBox* m_metres;
    QLineEdit* m_folder;
    QLabel* m_result;
    QPushButton* m_go;
    using Files = std::vector<std::filesystem::path>;
    Background<Files> m_work; // last: it uses the above
};

} // namespace fox::app
