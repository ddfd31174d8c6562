#include "dialogs/grid_map.h"
#include "dialogs/surface_sheet.h"
#include "model/ensemble.h"
#include "style/theme.h"
#include "views/background.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Many equally likely models: ranges of volumes, and maps of the chance and the spread of the unit.
class EnsemblePage : public SurfacePage {
public:
    explicit EnsemblePage(QWidget* parent) : SurfacePage(parent), m_work(this, tr("Equally likely models")) {
        m_count->setObjectName("ensembleCount");
        m_count->setRange(10, 1000);
        m_count->setValue(100);
        m_count->setSuffix(tr(" models"));
        m_count->setToolTip(tr("More make the ranges steadier and take longer"));
        m_seed->setRange(1, 999999);
        m_seed->setPrefix(tr("seed "));
        m_seed->setToolTip(tr("The same seed gives the same models again"));
        for (auto* box : {m_count, m_seed}) box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        m_run->setObjectName("ensembleRun");
        m_bar->setRange(0, 1000);
        m_bar->setTextVisible(false);
        m_bar->setFixedWidth(160);
        m_bar->hide();
        m_table->setObjectName("ensembleTable");
        m_table->setColumnCount(5);
        m_table->setHorizontalHeaderLabels({tr("Unit"), tr("P10"), tr("P50"), tr("P90"), tr("this model")});
        m_table->verticalHeader()->hide();
        m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        m_words->setWordWrap(true);
        m_words->setProperty("muted", true);
        for (auto* map : {m_chance, m_spread}) map->setEmptyWords(tr("Press “Simulate”."));
        auto* top = new QHBoxLayout;
        for (QWidget* w : {static_cast<QWidget*>(m_count), static_cast<QWidget*>(m_seed), static_cast<QWidget*>(m_run),
                           static_cast<QWidget*>(m_bar)})
            top->addWidget(w);
        top->addStretch(1);
        m_which->setObjectName("ensembleMap");
        m_which->setToolTip(tr("What the second map shows"));
        m_which->addItems({tr("Base: P90 less P10, m"), tr("Base, P10, m"), tr("Base, P50, m"), tr("Base, P90, m"),
                           tr("Thickness, P10, m"), tr("Thickness, P50, m"), tr("Thickness, P90, m")});
        connect(m_which, &QComboBox::currentIndexChanged, this, [this] { showSecondMap(); });
        top->addWidget(m_which);
        auto* maps = new QHBoxLayout;
        maps->addWidget(m_chance);
        maps->addWidget(m_spread);
        auto* layout = new QVBoxLayout(this);
        layout->addLayout(top);
        layout->addWidget(m_words);
        layout->addWidget(m_table, 3);
        layout->addLayout(maps, 4);
        connect(m_run, &QPushButton::clicked, this, [this] { m_work.busy() ? m_work.stop() : run(); });
    }
    bool settled() const override { return !m_work.busy(); }

protected:
    void fill() override {
        m_run->setText(m_work.busy() ? tr("Stop") : tr("Simulate"));
        if (m_model != products().model && !m_work.busy()) m_result.reset();
        showResult();
    }

private:
    void run() {
        m_model = products().model;
        auto frame = *products().frame;
        constexpr double kCells = 100; // across: ranges need no finer grid
        frame.cell = std::max(frame.cell, std::max(frame.xmax - frame.xmin, frame.ymax - frame.ymin) / kCells);
        m_bar->show();
        m_work.start(
            [set = sharedProducts(), frame,
             settings = EnsembleSettings{m_count->value(), std::uint64_t(m_seed->value())}](const Progress& p) {
                return std::make_shared<const Ensemble>(simulate(*set->model, set->terrain->sampled(frame), settings, {}, p));
            },
            [this](std::shared_ptr<const Ensemble> result) {
                m_result = std::move(result);
                ended();
            },
            [this](const QString& why) {
                ended();
                m_words->setText(why.isEmpty() ? tr("Stopped.") : why);
            },
            [this](double fraction, const QString& words) {
                m_bar->setValue(int(fraction * 1000));
                m_words->setText(words);
            });
        m_run->setText(tr("Stop"));
    }

    void ended() {
        m_bar->hide();
        m_run->setText(tr("Simulate"));
        showResult();
    }

    void showResult() {
        if (m_work.busy()) return;
        if (!m_result) {
            m_table->setRowCount(0);
            m_chance->setMap(Grid(), {});
            m_spread->setMap(Grid(), {});
            return m_words->setText(
                tr("Draws many models that all honour the contacts and keep the bounds, and are as rough as the "
                   "variograms say; where they differ nobody knows."));
        }
        const auto& units = products().project.sequence->units;
        m_table->setRowCount(int(m_result->units.size()));
        QStringList others, outside;
        for (int row = 0; row < int(m_result->units.size()); ++row) {
            const auto& u = m_result->units[std::size_t(row)];
            const auto range = rangeOf(u.volumes);
            const bool mine = std::size_t(row) == unitIndex();
            const auto cell = [&](int column, const QString& text) {
                auto* item = new QTableWidgetItem(text);
                item->setTextAlignment(Qt::AlignVCenter | (column == 0 ? Qt::AlignLeft : Qt::AlignRight));
                if (mine) item->setBackground(colour::chosen);
                m_table->setItem(row, column, item);
            };
            cell(0, QString::fromStdString(units[std::size_t(row)].name));
            cell(1, volume(range.p10));
            cell(2, volume(range.p50));
            cell(3, volume(range.p90));
            const double own = products().volumes->units[std::size_t(row)].volume;
            cell(4, volume(own));
            if (!range.contains(own)) {
                m_table->item(row, 4)->setForeground(colour::red);
                outside << QString::fromStdString(units[std::size_t(row)].code);
            }
            if (u.byOrdinaryKriging) others << QString::fromStdString(units[std::size_t(row)].code);
        }
        const auto& mine = m_result->units[unitIndex()];
        m_chance->setMap(mine.chance, tr("Probability that %1 is present").arg(QString::fromStdString(unit().name)), 0, 1);
        showSecondMap();
        auto words =
            tr("Of %1 models: a tenth, a half and nine tenths of them have less than these volumes.").arg(m_result->count);
        if (!outside.isEmpty())
            words += " "
                     + tr("The model's own volume lies outside its range for %1: there the surfaces and the realisations judge "
                          "differently where the unit is present.")
                           .arg(outside.join(", "));
        if (!others.isEmpty())
            words += " "
                     + tr("%1: made by a method without a variogram, simulated by ordinary kriging of the same contacts.")
                           .arg(others.join(", "));
        m_words->setText(words);
    }

    void showSecondMap() {
        if (!m_result) return;
        const auto& mine = m_result->units[unitIndex()];
        const Grid* kMaps[] = {nullptr, &mine.base10, &mine.base50, &mine.base90, &mine.thick10, &mine.thick50, &mine.thick90};
        const auto which = m_which->currentIndex();
        if (which > 0) return m_spread->setMap(*kMaps[which], m_which->currentText());
        auto spread = mine.base90;
        for (std::size_t i = 0; i < spread.values.size(); ++i) spread.values[i] -= mine.base10.values[i];
        m_spread->setMap(spread, m_which->currentText(), 0);
    }

    QComboBox* m_which = new QComboBox(this);
    QSpinBox *m_count = new QSpinBox(this), *m_seed = new QSpinBox(this);
    QPushButton* m_run = new QPushButton(this);
    QProgressBar* m_bar = new QProgressBar(this);
    QTableWidget* m_table = new QTableWidget(this);
    QLabel* m_words = new QLabel(this);
    GridMap *m_chance = new GridMap(this), *m_spread = new GridMap(this);
    std::shared_ptr<const Ensemble> m_result;
    std::shared_ptr<const Model> m_model;               ///< that the result is of
    Background<std::shared_ptr<const Ensemble>> m_work; // last: it uses the above
};

} // namespace

SurfacePage* makeEnsemblePage(QWidget* parent) { return new EnsemblePage(parent); }

} // namespace fox::app
