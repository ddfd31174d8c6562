#pragma once
#include "model/hole_prediction.h"
#include "products/products.h"
#include "views/background.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace fox::app {

/// What the holes of one file found, against the model that is made without them: a table, a plot, and a report to keep.
class HoleCheckSheet : public QDialog {
    Q_OBJECT
public:
    HoleCheckSheet(std::shared_ptr<const ProductSet>, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    bool working() const { return m_work.busy(); }
    /// The table as .csv, or the report as .pdf. @throws FileError
    void saveTo(const std::filesystem::path&) const;

signals:
    void failed(const QString& sentence);
    void holeChosen(const QString& hole);

private:
    void fillFiles();
    void compare();
    void showResult();
    void save();

    std::shared_ptr<const ProductSet> m_products;
    QComboBox* m_file;
    QTableWidget* m_table;
    QLabel* m_words;
    class PredictionPlot* m_plot;
    QPushButton* m_save;
    std::string m_compared; ///< the file that the result is of
    std::vector<HolePrediction> m_result;
    Background<std::vector<HolePrediction>> m_work; // last: it uses the above
};

} // namespace fox::app
