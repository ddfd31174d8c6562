#pragma once
#include "ground/compare.h"
#include "products/products.h"
#include "views/background.h"

#include <QDialog>
#include <QImage>

class QComboBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace fox::app {

/// Two surfaces against one another: cut and fill, a map of the difference, a profile along a section line; all inside an
/// outline if one is chosen. Results can be saved.
class CompareSheet : public QDialog {
    Q_OBJECT
public:
    CompareSheet(std::shared_ptr<const ProductSet>, QWidget* parent);
    ~CompareSheet() override;
    bool working() const { return m_work.busy(); }
    /// Volumes and profile as CSV, the difference as a GeoTIFF of the same name beside it. @throws FileError
    void saveTo(const std::filesystem::path& csv);

private:
    /// A surface that can be compared; it is made by the job that needs it first.
    struct Surface {
        QString name;
        std::function<ComparedSurface(const Progress&)> made;
    };
    struct Compared {
        Comparison result;
        QString names[2];
    };
    void fillSurfaces();
    void compare();
    void showResult(Compared);
    void save();

    std::shared_ptr<const ProductSet> m_products;
    std::vector<Surface> m_surfaces;
    QComboBox *m_first, *m_second, *m_outline, *m_line;
    QTableWidget* m_table;
    class DifferenceHistogram* m_histogram;
    class DifferenceMap* m_map;
    class ProfileChart* m_chart;
    QLabel* m_words;
    QPushButton* m_save;
    std::optional<Compared> m_result;
    Background<Compared> m_work; // last: it uses the above
};

} // namespace fox::app
