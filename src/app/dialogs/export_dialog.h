#pragma once
#include "handover/export_files.h"
#include "views/background.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QTreeWidget;

namespace fox::app {

/// Asks what to export, each kind as which format, and where to; writes it all in one run, beside the window. What is ticked,
/// the formats and the folder are remembered. Files that would be replaced are listed and asked about before.
class ExportDialog : public QDialog {
    Q_OBJECT
public:
    /// Has products made, and calls `use` with them, or with null; see Session::ask.
    using Ask = std::function<void(const Wanted&, std::function<void(std::shared_ptr<const ProductSet>)> use)>;
    ExportDialog(Ask, QWidget* parent);
    bool settled() const { return !m_waiting && !m_work.busy(); }
    void setFolder(const QString&);

private:
    /// A kind that is ticked, and as what.
    struct Chosen {
        ExportKind kind;
        std::string as;
        bool isGrid() const { return as == "tif" || as == "asc" || as == "xyz"; }
    };
    /// Files that are made and wait for their places, and why others could not be made.
    struct Prepared {
        ReplaceFiles files;
        QStringList refused, notes;
    };
    QWidget* buildGridRow();
    QWidget* buildXyzRow();
    /// Extent and cells as they are typed. @throws Error saying what is missing
    std::optional<Frame> typedFrame(const ProductSet&) const;
    void fillKinds();
    void chooseFolder();
    std::vector<Chosen> chosen() const;
    void choiceChanged();
    void write();
    void writeWith(std::shared_ptr<const ProductSet>);
    void finish(Prepared);
    void said(const QString& words, bool isFault);

    Ask m_ask;
    bool m_waiting = false; ///< for products
    QTreeWidget* m_kinds;
    QWidget *m_mapRow, *m_gridRow, *m_xyzRow;
    QLineEdit* m_edges[4]; ///< west, south, east, north; empty: the site's
    QDoubleSpinBox* m_cell;
    QCheckBox *m_xyzHeader, *m_patterns;
    QComboBox* m_xyzSeparator;
    QLineEdit* m_xyzNone;
    QComboBox* m_map;
    QDoubleSpinBox* m_metres;
    QLineEdit* m_folder;
    QPlainTextEdit* m_result;
    QPushButton* m_go;
    Background<std::shared_ptr<Prepared>> m_work; // last: it uses the above
};

} // namespace fox::app
