#include "base/errors.h"
#include "dialogs/sequence_sheet.h"
#include "sequence/proposal.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/background.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

constexpr double kSure = 0.8;

QString list(const std::vector<std::string>& words) {
    QStringList out;
    for (const auto& w : words) out << qt(w);
    return out.join(", ");
}

/// Splits and lenses in words, and a row for each interval with a choice: tick what is right, take it in one step.
class ProposalPage : public SequencePage {
public:
    explicit ProposalPage(QWidget* parent) : SequencePage(parent), m_work(this, tr("Proposing units")) {
        m_words->setWordWrap(true);
        m_table->setObjectName("proposalTable");
        m_table->setColumnCount(6);
        m_table->setHorizontalHeaderLabels(
            {tr("Hole"), tr("From"), tr("To"), tr("Is now"), tr("Proposed"), tr("Confidence, and why")});
        m_table->horizontalHeader()->setStretchLastSection(true);
        m_table->verticalHeader()->hide();
        m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
        m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_table->setShowGrid(false);
        m_table->setAlternatingRowColors(true);
        for (const auto& [column, wide] : {std::pair{0, 110}, {1, 66}, {2, 66}, {3, 64}, {4, 76}})
            m_table->setColumnWidth(column, wide);
        m_split->setObjectName("takeSplit");
        m_take->setObjectName("takeReadings");
        m_take->setProperty("main", true);
        m_all->setToolTip(tr("Tick those that are at least four fifths sure; what the log says itself needs no choice"));
        auto* buttons = new QHBoxLayout;
        buttons->addWidget(m_split);
        buttons->addStretch(1);
        buttons->addWidget(m_none);
        buttons->addWidget(m_all);
        buttons->addWidget(m_take);
        auto* layout = new QVBoxLayout(this);
        layout->addWidget(m_words);
        layout->addWidget(m_table, 1);
        layout->addLayout(buttons);
        connect(m_split, &QPushButton::clicked, this, [this] { takeSequence(); });
        connect(m_take, &QPushButton::clicked, this, [this] { takeReadings(); });
        connect(m_all, &QPushButton::clicked, this,
                [this] { tick([](const ProposedReading& r) { return !r.fromLog && r.confidence >= kSure; }); });
        connect(m_none, &QPushButton::clicked, this, [this] { tick([](const ProposedReading&) { return false; }); });
        connect(m_table, &QTableWidget::itemChanged, this, [this] { countTicked(); });
        connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) {
            if (row >= 0 && m_table->item(row, 0)) emit holeChosen(m_table->item(row, 0)->text());
        });
    }

    void setUnit(const QString&) override {}
    bool settled() const override { return !m_work.busy(); }

protected:
    void fill() override {
        const auto& p = products().project;
        if (p.holes == m_holes && p.sequence == m_sequence && p.interpretation == m_own) return;
        m_holes = p.holes, m_sequence = p.sequence, m_own = p.interpretation;
        m_split->setEnabled(false); // what is listed speaks of the project as it was
        m_take->setEnabled(false);
        m_work.start([holes = p.holes, sequence = p.sequence,
                      own = p.interpretation](const Progress&) { return proposeReading(*holes, *sequence, *own); },
                     [this](SequenceProposal proposal) {
                         m_proposal = std::move(proposal);
                         // what the logs leave open comes first, the least sure on top
                         std::ranges::stable_sort(m_proposal.readings, {},
                                                  [](const ProposedReading& r) { return std::pair(r.fromLog, r.confidence); });
                         showProposal();
                     },
                     [this](const QString& why) { m_words->setText(why); });
    }

private:
    void showProposal() {
        QStringList words;
        for (const auto& s : m_proposal.splits)
            words << tr("<b>%1 returns under %2</b> in %5 (%3): it is proposed as %4.")
                         .arg(qt(s.code), list(s.between), list(s.holes), list(s.units), counted(qint64(s.holes.size()), "hole"));
        if (!m_proposal.lenses.empty())
            words << tr("Lenses, which most holes that could have them do not have: %1.").arg(list(m_proposal.lenses));
        int open = 0;
        for (const auto& r : m_proposal.readings) open += !r.fromLog;
        if (m_proposal.readings.empty() && m_proposal.splits.empty())
            words << tr("No code returns under another in two holes or more, and no interval has a choice of units: "
                        "every interval has its unit.");
        else if (!m_proposal.readings.empty())
            words << tr("%1 a code that several units share; the log alone does not say which unit of %2. Choices made by hand "
                        "are kept.")
                         .arg(counted(qint64(m_proposal.readings.size()), "interval has", "intervals have"))
                         .arg(open);
        m_words->setText(words.join("<br>"));
        m_split->setVisible(!m_proposal.splits.empty());
        m_split->setEnabled(true);
        m_split->setText(m_proposal.splits.size() == 1 ? tr("Split %1").arg(qt(m_proposal.splits[0].code))
                                                       : tr("Split these codes"));
        fillTable();
    }

    QString nowOf(const IntervalChoice& c) const {
        for (const auto& read : products().reading->holes)
            if (read.name == c.hole)
                for (const auto& i : read.intervals)
                    if (i.top <= c.top && c.base <= i.base) return qt(products().project.sequence->units[i.unit].code);
        return {};
    }

    void fillTable() {
        m_filling = true;
        m_table->setRowCount(int(m_proposal.readings.size()));
        for (int row = 0; row < m_table->rowCount(); ++row) {
            const auto& r = m_proposal.readings[std::size_t(row)];
            const auto now = nowOf(r.choice);
            const QStringList cells{qt(r.choice.hole),
                                    QString::number(r.choice.top.metres, 'f', 2),
                                    QString::number(r.choice.base.metres, 'f', 2),
                                    now,
                                    qt(r.choice.unit),
                                    r.fromLog ? tr("the log says it: %1").arg(qt(r.why))
                                              : tr("%1 %: %2").arg(std::lround(r.confidence * 100)).arg(qt(r.why))};
            for (int c = 0; c < cells.size(); ++c) {
                auto* item = new QTableWidgetItem(cells[c]);
                if (c == 1 || c == 2) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                if (c == 4 && now != cells[c]) item->setForeground(colour::fox);
                if (c == 5) item->setToolTip(cells[c]);
                if (c == 5 && r.confidence < kSure) item->setForeground(colour::amberText);
                if (c == 0) item->setCheckState(!r.fromLog && r.confidence >= kSure ? Qt::Checked : Qt::Unchecked);
                m_table->setItem(row, c, item);
            }
        }
        m_filling = false;
        countTicked();
    }

    template <typename Which>
    void tick(const Which& which) {
        m_filling = true;
        for (int row = 0; row < m_table->rowCount(); ++row)
            m_table->item(row, 0)->setCheckState(which(m_proposal.readings[std::size_t(row)]) ? Qt::Checked : Qt::Unchecked);
        m_filling = false;
        countTicked();
    }

    std::vector<IntervalChoice> ticked() const {
        std::vector<IntervalChoice> out;
        for (int row = 0; row < m_table->rowCount(); ++row)
            if (m_table->item(row, 0)->checkState() == Qt::Checked) out.push_back(m_proposal.readings[std::size_t(row)].choice);
        return out;
    }

    void countTicked() {
        if (m_filling) return;
        const auto n = ticked().size();
        m_take->setText(tr("Take the %1 ticked").arg(n));
        m_take->setEnabled(n > 0 || !m_proposal.splits.empty());
    }

    /// The split codes, and with them what the ticked intervals are: they name the new units.
    void takeSequence() {
        emit editMade([proposed = m_proposal, of = m_sequence](const Project& p) { return splitCodes(p, of, proposed); });
    }

    std::vector<std::string> codes() const {
        std::vector<std::string> out;
        for (const auto& s : m_proposal.splits) out.push_back(s.code);
        return out;
    }

    void takeReadings() {
        const auto choices = ticked();
        emit editMade([choices, proposed = m_proposal, of = m_sequence,
                       label = tr("Units of %1 as proposed").arg(counted(qint64(choices.size()), "interval")).toStdString()](
                          const Project& p) {
            return setIntervals(proposed.splits.empty() ? p : splitCodes(p, of, proposed).project, choices, label);
        });
    }

    QLabel* m_words = new QLabel(this);
    QTableWidget* m_table = new QTableWidget(this);
    QPushButton* m_split = new QPushButton(this);
    QPushButton* m_none = new QPushButton(tr("Tick none"), this);
    QPushButton* m_all = new QPushButton(tr("Tick the sure ones"), this);
    QPushButton* m_take = new QPushButton(this);
    SequenceProposal m_proposal;
    Part<Holes> m_holes;
    Part<Sequence> m_sequence;
    Part<Interpretation> m_own;
    bool m_filling = false;
    Background<SequenceProposal> m_work; // last: it uses the above
};

} // namespace

SequencePage* makeProposalPage(QWidget* parent) { return new ProposalPage(parent); }

} // namespace fox::app
