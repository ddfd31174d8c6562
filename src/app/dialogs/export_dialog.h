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
    /// Has products made, and calls `use` with them, or with null; see Session::ask.
    using Ask = std::function<void(const Wanted&, std::function<void(std::shared_ptr<const ProductSet>)> use)>;
    ExportDialog(Ask, const QString& folder, QWidget* parent);
    bool settled() const { return !m_waiting && !m_work.busy(); }

private:
    void fillFormats();
    void write();
    void writeWith(std::shared_ptr<const ProductSet>);
    void said(const QString& words, bool isFault);

    Ask m_ask;
    bool m_waiting = false; ///< for products
    QComboBox *m_what, *m_as, *m_map;
    QDoubleSpinBox* m_metres;
    QLineEdit* m_folder;
    QLabel* m_result;
    QPushButton* m_go;
    using Files = std::vector<std::filesystem::path>;
    Background<Files> m_work; // last: it uses the above
};

} // namespace fox::app
