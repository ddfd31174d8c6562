#include "dialogs/hole_check_sheet.h"

#include "base/errors.h"
#include "base/files.h"
#include "paper/render.h"
#include "sheets/prediction_plot.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/paper_image.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <set>

namespace fox::app {

/// The plot that goes into the report too.
class PredictionPlot : public QWidget {
public:
    using QWidget::QWidget;
    void setPredictions(std::vector<HolePrediction> all, Part<Sequence> sequence) {
        m_all = std::move(all), m_sequence = std::move(sequence);
        update();
    }
    QSize sizeHint() const override { return {380, 380}; }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.fillRect(rect(), colour::paper);
        if (m_all.empty()) return;
        const auto drawing =
            drawPredictionPlot(m_all, *m_sequence, width() * kMillimetresPerPixel, height() * kMillimetresPerPixel);
        painter.drawImage(QPointF(), imageOf(drawing, devicePixelRatioF()));
    }

private:
    std::vector<HolePrediction> m_all;
    Part<Sequence> m_sequence = part(Sequence());
};

namespace {

std::vector<std::string> holesOf(const Project& p, const std::string& file) {
    std::vector<std::string> out;
    const auto names = displayNames(*p.holes);
    for (std::size_t i = 0; i < names.size(); ++i)
        if ((*p.holes)[i].file == file && !(*p.holes)[i].excluded) out.push_back(names[i]);
    return out;
}

/// The project as it is without these holes in its surfaces.
Project without(const Project& p, const std::vector<std::string>& holes) {
    const std::set<std::string> left(holes.begin(), holes.end());
    const auto names = displayNames(*p.holes);
    auto out = p;
    auto all = *p.holes;
    for (std::size_t i = 0; i < names.size(); ++i)
        if (left.contains(names[i])) all.change(i).excluded = true;
    out.holes = part(std::move(all));
    return out;
}

} // namespace

HoleCheckSheet::HoleCheckSheet(std::shared_ptr<const ProductSet> products, QWidget* parent)
    : QDialog(parent),
      m_file(new QComboBox(this)),
      m_table(new QTableWidget(this)),
      m_words(new QLabel(this)),
      m_plot(new PredictionPlot(this)),
      m_save(new QPushButton(tr("Save…"), this)),
      m_work(this, tr("Holes against the model without them")) {
    setObjectName("holeCheckSheet");
    setWindowTitle(tr("Holes against the model without them - Fox Cellar"));
    resize(1000, 620);
    m_file->setObjectName("checkFile");
    m_file->setToolTip(tr("The file whose holes the model is made without"));
    m_table->setObjectName("checkTable");
    m_table->setColumnCount(7);
    m_table->setHorizontalHeaderLabels(
        {tr("Hole"), tr("Unit"), tr("Found, m"), tr("Predicted, m"), tr("±, m"), tr("Error, m"), tr("Probability")});
    m_table->horizontalHeaderItem(6)->setToolTip(
        tr("Of the unit's presence, as the model without the hole has it; red where it was wrong"));
    m_table->verticalHeader()->hide();
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_words->setWordWrap(true);
    m_save->setObjectName("checkSave");
    auto* top = new QHBoxLayout;
    top->addWidget(new QLabel(tr("Holes of"), this));
    top->addWidget(m_file, 1);
    top->addWidget(m_save);
    auto* both = new QHBoxLayout;
    both->addWidget(m_table, 3);
    both->addWidget(m_plot, 2);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 14, 18, 16);
    layout->addLayout(top);
    layout->addWidget(m_words);
    layout->addLayout(both, 1);
    connect(m_file, &QComboBox::activated, this, &HoleCheckSheet::compare);
    connect(m_save, &QPushButton::clicked, this, &HoleCheckSheet::save);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) {
        if (row >= 0 && m_table->item(row, 0)) emit holeChosen(m_table->item(row, 0)->text());
    });
    m_products = std::move(products);
    fillFiles();
    compare();
}

void HoleCheckSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    const bool same = products->model == m_products->model && products->project.holes == m_products->project.holes;
    m_products = std::move(products);
    if (same) return;
    fillFiles();
    compare();
}

void HoleCheckSheet::fillFiles() {
    const auto now = m_file->currentText();
    m_file->clear();
    std::set<std::string> files;
    for (const auto& h : *m_products->project.holes)
        if (!h.intervals.empty()) files.insert(h.file);
    for (const auto& f : *m_products->project.files) // the last that came first: it is the one that is new
        if (files.contains(f.name)) m_file->insertItem(0, qt(f.name));
    m_file->setCurrentIndex(std::max(0, m_file->findText(now)));
}

void HoleCheckSheet::compare() {
    const auto file = m_file->currentText().toStdString();
    const auto holes = holesOf(m_products->project, file);
    m_result.clear();
    m_compared = file;
    if (m_file->count() < 2 && holes.size() == m_products->reading->holes.size()) {
        showResult();
        return m_words->setText(tr("All logged holes come from one file: without them there is no model to compare with."));
    }
    m_words->setText(tr("Making the model without these holes…"));
    m_save->setEnabled(false);
    m_work.start(
        [set = m_products, holes](const Progress& progress) {
            const auto made = Products().of(without(set->project, holes), progress, {ProductKind::Audit});
            std::vector<std::vector<Contact>> contacts;
            for (const auto& c : set->contacts) contacts.push_back(*c);
            return made->model ? predictionsOf(*made->model, contacts, holes) : std::vector<HolePrediction>();
        },
        [this](std::vector<HolePrediction> result) {
            m_result = std::move(result);
            showResult();
        },
        [this](const QString& why) { m_words->setText(why.isEmpty() ? tr("Stopped.") : why); });
}

void HoleCheckSheet::showResult() {
    const auto& units = m_products->project.sequence->units;
    m_table->setRowCount(int(m_result.size()));
    const auto figure = [](double v, int decimals) {
        return std::isnan(v) ? QString(QChar(0x2013)) : QString::number(v, 'f', decimals);
    };
    for (int row = 0; row < int(m_result.size()); ++row) {
        const auto& p = m_result[std::size_t(row)];
        const QString found = std::isnan(p.found) ? p.isPresent ? tr("not reached") : tr("absent") : figure(p.found, 2);
        const QString cells[] = {
            qt(p.hole),           qt(units[p.unit].code),  found, figure(p.predicted, 2), figure(p.deviation, 2),
            figure(p.error(), 2), figure(p.probability, 2)};
        const bool isWrong = !std::isnan(p.probability) && (p.probability > 0.5) != p.isPresent;
        for (int column = 0; column < 7; ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            item->setTextAlignment(Qt::AlignVCenter | (column < 2 ? Qt::AlignLeft : Qt::AlignRight));
            if (column == 6 && isWrong) item->setForeground(colour::red);
            m_table->setItem(row, column, item);
        }
    }
    m_table->resizeColumnsToContents();
    m_plot->setPredictions(m_result, m_products->project.sequence);
    m_save->setEnabled(!m_result.empty());
    const auto s = summaryOf(m_result);
    auto words = tr("The model without these holes, against what they found. ");
    if (s.bases > 0)
        words += tr("%1: mean error %2 m, RMSE %3 m").arg(counted(s.bases, "base")).arg(s.bias, 0, 'f', 2).arg(s.rmse, 0, 'f', 2);
    if (!std::isnan(s.within)) words += tr(", %1 % within the 80 % range").arg(100 * s.within, 0, 'f', 0);
    if (s.presences > 0) words += tr(". Presence right %1 of %2 times.").arg(s.presenceRight).arg(s.presences);
    m_words->setText(m_result.empty() ? tr("These holes tell nothing of a base.") : words);
}

void HoleCheckSheet::saveTo(const std::filesystem::path& path) const {
    const auto& p = m_products->project;
    if (path.extension() == ".csv") return writeBytes(path, predictionsCsv(m_result, *p.sequence));
    const auto page = predictionReport(m_result, *p.sequence, p.name, m_compared);
    writeBytes(path, paper::toPdf(std::span(&page, 1)));
}

void HoleCheckSheet::save() {
    const auto path = askSaveFile(this, tr("Holes against the model"), "reports", "holes_against_model.pdf",
                                  tr("Report (*.pdf);;Table (*.csv)"), "pdf");
    if (path.isEmpty()) return;
    try {
        saveTo(path.toStdString());
    } catch (const Error& e) {
        emit failed(QString::fromStdString(e.what()));
    }
}

} // namespace fox::app
