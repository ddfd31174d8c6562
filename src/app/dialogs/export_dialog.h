#pragma once
#include "project/export_files.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QLineEdit;

namespace fox::app {

/// Asks what to hand on, as what and where, and writes it.
class ExportDialog : public QDialog {
    Q_OBJECT
public:
    ExportDialog(std::shared_ptr<const ProductSet>, const QString& folder, QWidget* parent);

private:
    void fillFormats();
    void write();

    std::shared_ptr<const ProductSet> m_products;
    QComboBox *m_what, *m_as;
    QLineEdit* m_folder;
    QLabel* m_result;
};

} // namespace fox::app
