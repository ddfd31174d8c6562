#include "dialogs/surface_sheet.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/background.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Where one more hole would narrow the unit's volume, base or presence most.
class DrillPage : public SurfacePage {
public:
    explicit DrillPage(QWidget* parent) : SurfacePage(parent), m_work(this, tr("Where to drill next")) {
        m_aim->setObjectName("drillAim");
        for (const auto kind : kAims) m_aim->addItem(QString::fromUtf8(fox::words(kind)));
        m_aim->setToolTip(tr("What the hole should make more certain"));
        m_where->setObjectName("drillWhere");
        m_where->addItems({tr("anywhere in the extent"), tr("along the chosen section"), tr("at the predicted logs")});
        m_where->setToolTip(tr("The positions that are compared"));
        m_isLimited->setObjectName("drillIsLimited");
        m_isLimited->setText(tr("to a depth of"));
        m_isLimited->setToolTip(tr("Otherwise the hole goes through all units"));
        m_depth->setObjectName("drillDepth");
        m_depth->setRange(0.5, 2000);
        m_depth->setDecimals(1);
        m_depth->setSuffix(tr(" m"));
        m_depth->setValue(10);
        m_depth->setEnabled(false);
        connect(m_isLimited, &QCheckBox::toggled, m_depth, &QWidget::setEnabled);
        m_run->setObjectName("drillRun");
        m_bar->setRange(0, 1000);
        m_bar->setTextVisible(false);
        m_bar->setFixedWidth(140);
        m_bar->hide();
        m_table->setObjectName("drillTable");
        m_table->setColumnCount(4);
        m_table->setHorizontalHeaderLabels({tr("Rank"), tr("Easting"), tr("Northing"), tr("Expected to go, % of the variance")});
        m_table->verticalHeader()->hide();
        m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
        m_table->setSelectionMode(QAbstractItemView::SingleSelection);
        m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        m_keep->setObjectName("drillKeep");
        m_keep->setText(tr("Add a predicted log here"));
        m_keep->setToolTip(tr("It stays on the plan, and shows what the hole is expected to find"));
        m_words->setWordWrap(true);
        m_words->setProperty("muted", true);
        auto* top = new QHBoxLayout;
        for (QWidget* w : {static_cast<QWidget*>(m_aim), static_cast<QWidget*>(m_where), static_cast<QWidget*>(m_isLimited),
                           static_cast<QWidget*>(m_depth), static_cast<QWidget*>(m_run), static_cast<QWidget*>(m_bar)})
            top->addWidget(w);
        top->addStretch(1);
        auto* below = new QHBoxLayout;
        below->addStretch(1);
        below->addWidget(m_keep);
        auto* layout = new QVBoxLayout(this);
        layout->addLayout(top);
        layout->addWidget(m_words);
        layout->addWidget(m_table, 1);
        layout->addLayout(below);
        connect(m_run, &QPushButton::clicked, this, [this] { m_work.busy() ? m_work.stop() : run(); });
        connect(m_table, &QTableWidget::itemSelectionChanged, this, [this] { m_keep->setEnabled(m_table->currentRow() >= 0); });
        connect(m_keep, &QPushButton::clicked, this, [this] {
            const auto row = m_table->currentRow();
            if (row < 0 || std::size_t(row) >= m_ranked.size()) return;
            const auto p = m_ranked[std::size_t(row)].place;
            const Point2 place{std::round(p.x * 100) / 100, std::round(p.y * 100) / 100};
            emit editMade([place](const Project& project) { return addTrialColumn(project, place); });
        });
    }
    bool settled() const override { return !m_work.busy(); }

protected:
    void fill() override {
        m_run->setText(m_work.busy() ? tr("Stop") : tr("Rank positions"));
        if ((m_model != products().model || m_rankedUnit != unitIndex()) && !m_work.busy() && !m_ranked.empty()) show({});
        if (m_ranked.empty() && !m_work.busy()) m_words->setText(explanation());
        m_keep->setEnabled(m_table->currentRow() >= 0);
    }

private:
    static constexpr DrillAim::Kind kAims[] = {DrillAim::Kind::Volume, DrillAim::Kind::Base, DrillAim::Kind::Presence};
    static constexpr std::size_t kShown = 20;

    static QString explanation() {
        return tr("Compares where one more hole would make this unit most certain, over 200 equally likely models: the share of "
                  "the variance that the hole is expected to take away. The best positions are numbered on the plan.");
    }

    std::vector<Point2> candidates() const {
        const auto& p = products().project;
        if (m_where->currentIndex() == 0) return drillCandidates(products().frame->box());
        if (m_where->currentIndex() == 1)
            return m_section < p.sections->size() ? drillCandidates((*p.sections)[m_section].line) : std::vector<Point2>();
        std::vector<Point2> out;
        for (const auto& t : *p.trialColumns) out.push_back(t.place);
        return out;
    }

    void run() {
        const auto places = candidates();
        if (places.empty())
            return m_words->setText(
                m_where->currentIndex() == 1
                    ? tr("There is no section line yet: draw one on the plan.")
                    : tr("There is no predicted log yet: put some on the plan where a hole could be drilled."));
        m_model = products().model;
        m_rankedUnit = unitIndex();
        m_isNamed = m_where->currentIndex() == 2;
        show({});
        m_bar->show();
        DrillSettings settings;
        if (m_isLimited->isChecked()) settings.depth = m_depth->value();
        const DrillAim aim{kAims[m_aim->currentIndex()], unitIndex(), Area()};
        m_work.start([set = sharedProducts(), aim, places,
                      settings](const Progress& p) { return whereToDrill(*set->model, *set->frame, aim, places, settings, p); },
                     [this](std::vector<DrillPlace> ranked) {
                         ended();
                         // places side by side say the same; those that were named are all listed
                         const auto box = products().frame->box();
                         constexpr double kApart = 0.06; // of the extent
                         if (!m_isNamed) ranked = apart(ranked, kApart * std::sqrt(box.width() * box.height()));
                         if (ranked.size() > kShown) ranked.resize(kShown);
                         show(std::move(ranked));
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
        m_run->setText(tr("Rank positions"));
    }

    void show(std::vector<DrillPlace> ranked) {
        m_ranked = std::move(ranked);
        m_table->setRowCount(int(m_ranked.size()));
        for (int row = 0; row < int(m_ranked.size()); ++row) {
            const auto& r = m_ranked[std::size_t(row)];
            const QString cells[] = {QString::number(row + 1), coordinate(r.place.x), coordinate(r.place.y),
                                     QString::number(100 * r.gain, 'f', 0)};
            for (int column = 0; column < 4; ++column) {
                auto* item = new QTableWidgetItem(cells[column]);
                item->setTextAlignment(Qt::AlignVCenter | Qt::AlignRight);
                m_table->setItem(row, column, item);
            }
        }
        m_keep->setEnabled(false);
        emit drillRanked(m_ranked);
        if (m_ranked.empty()) return;
        if (!(m_ranked.front().gain > 0)) return m_words->setText(tr("Nothing is gained anywhere: no hole would change this."));
        m_table->setCurrentCell(0, 0);
        m_words->setText(tr("One hole at the best of these positions is expected to take away %1 % of the variance of %2.")
                             .arg(100 * m_ranked.front().gain, 0, 'f', 0)
                             .arg(m_aim->currentText()));
    }

    void setSection(std::size_t section) override { m_section = section; }

    QComboBox *m_aim = new QComboBox(this), *m_where = new QComboBox(this);
    QCheckBox* m_isLimited = new QCheckBox(this);
    NumberBox* m_depth = new NumberBox(this);
    QPushButton *m_run = new QPushButton(this), *m_keep = new QPushButton(this);
    QProgressBar* m_bar = new QProgressBar(this);
    QTableWidget* m_table = new QTableWidget(this);
    QLabel* m_words = new QLabel(this);
    std::size_t m_section = 0, m_rankedUnit = 0;
    std::vector<DrillPlace> m_ranked;
    bool m_isNamed = false;                     ///< the places are predicted logs
    std::shared_ptr<const Model> m_model;       ///< that the ranking is of
    Background<std::vector<DrillPlace>> m_work; // last: it uses the above
};

} // namespace

SurfacePage* makeDrillPage(QWidget* parent) { return new DrillPage(parent); }

} // namespace fox::app
