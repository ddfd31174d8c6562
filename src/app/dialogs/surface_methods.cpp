#include "dialogs/difference_map.h"
#include "dialogs/grid_map.h"
#include "dialogs/surface_sheet.h"
#include "model/surface_maps.h"
#include "style/theme.h"
#include "views/background.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// All methods on the same contacts, by their leave-one-out errors; the map of one against that of the one in use.
class MethodsPage : public SurfacePage {
public:
    explicit MethodsPage(QWidget* parent) : SurfacePage(parent), m_work(this, tr("Comparing methods")) {
        m_table->setObjectName("methodTable");
        m_table->setColumnCount(6);
        m_table->setHorizontalHeaderLabels(
            {tr("Method"), tr("Leave-one-out error, m"), tr("on average, m"), tr("Worst hole"), tr("by, m"), tr("Time, ms")});
        m_table->verticalHeader()->hide();
        m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
        m_table->setSelectionMode(QAbstractItemView::SingleSelection);
        m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_table->setAlternatingRowColors(true);
        m_use->setObjectName("methodUse");
        m_words->setWordWrap(true);
        m_words->setProperty("muted", true);
        auto* maps = new QHBoxLayout;
        for (QWidget* w : {static_cast<QWidget*>(m_now), static_cast<QWidget*>(m_other), static_cast<QWidget*>(m_difference)}) {
            w->setMinimumHeight(190);
            maps->addWidget(w, 1);
        }
        auto* below = new QHBoxLayout;
        below->addWidget(m_words, 1);
        below->addWidget(m_use);
        auto* layout = new QVBoxLayout(this);
        layout->addWidget(m_table, 4);
        layout->addLayout(below);
        layout->addLayout(maps, 3);
        connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
            if (row != before) showMaps();
        });
        connect(m_use, &QPushButton::clicked, this, [this] {
            if (const auto* r = chosen())
                emit editMade([code = unit().code, method = r->method](const Project& p) { return setMethod(p, code, method); });
        });
    }
    bool settled() const override { return !m_work.busy(); }

protected:
    void fill() override {
        const auto key = std::pair{products().model->bases[unitIndex()], unitIndex()};
        if (key == m_shown) return;
        m_shown = key;
        if (base().fixed) {
            m_table->setRowCount(0);
            m_results.clear();
            return m_words->setText(tr("This base is fixed; methods can be compared once it is made from the holes again."));
        }
        m_words->setText(tr("Working…"));
        m_work.start(
            [unit = unit(), base = products().model->bases[unitIndex()], average = products().model->averages[unitIndex()]](
                const Progress& p) { return compareMethods(unit, *base, average.get(), p); },
            [this](std::vector<MethodResult> results) {
                m_results = std::move(results);
                showResults();
            },
            [this](const QString& why) { m_words->setText(why); });
    }

private:
    void showResults() {
        const auto best = bestOf(m_results);
        m_table->setRowCount(int(m_results.size()));
        int used = -1;
        for (int row = 0; row < int(m_results.size()); ++row) {
            const auto& r = m_results[std::size_t(row)];
            const auto& l = r.base.leaveOneOut;
            const bool isUsed = r.method == methodOf(unit().recipe);
            auto name = QString::fromUtf8(methodInWords(r.method));
            if (isUsed) name += tr(" · in use"), used = row;
            if (best == std::size_t(row)) name += tr(" · smallest error");
            const auto cell = [&](int column, const QString& text, bool left = false) {
                auto* item = new QTableWidgetItem(text);
                item->setTextAlignment(Qt::AlignVCenter | (left ? Qt::AlignLeft : Qt::AlignRight));
                if (isUsed || best == std::size_t(row)) item->setFont(bodyFont(13, true));
                if (isUsed) item->setBackground(colour::chosen);
                m_table->setItem(row, column, item);
            };
            const auto figure = [](double v, int decimals = 2) {
                return std::isnan(v) ? QString(QChar(0x2013)) : QString::number(v, 'f', decimals);
            };
            cell(0, name, true);
            cell(1, l.n < r.base.contacts ? tr("%1 (%2 of %3 holes)").arg(figure(l.rmse)).arg(l.n).arg(r.base.contacts)
                                          : figure(l.rmse));
            cell(2, figure(l.bias));
            cell(3, QString::fromStdString(r.worstHole), true);
            cell(4, figure(r.worst));
            cell(5, figure(r.milliseconds, 1));
        }
        m_table->resizeColumnsToContents();
        m_table->setColumnWidth(0, std::max(250, m_table->columnWidth(0)));
        for (int column = 1; column < m_table->columnCount(); ++column)
            m_table->setColumnWidth(column, m_table->columnWidth(column) + 24);
        m_words->setText(
            tr("The error with which each contact is told from all the others, the holes that only limit the base kept. %1"
               "Choose a row to see its surface beside the one in use.")
                .arg(rankingWords()));
        if (m_table->currentRow() < 0) m_table->setCurrentCell(nextBest(used), 0);
        showMaps();
    }

    /// On which holes the methods are compared, and which of them has values at too few.
    QString rankingWords() const {
        int on = 0, contacts = 0;
        QStringList notRanked;
        for (const auto& r : m_results) {
            on = std::max(on, r.rankedOn), contacts = std::max(contacts, r.base.contacts);
            if (r.base.contacts > 0 && std::isnan(r.rankError)) notRanked << QString::fromUtf8(methodInWords(r.method));
        }
        QString words;
        if (on > 0 && on < contacts) words += tr("Ranked at the %1 of %2 holes where all have a value. ").arg(on).arg(contacts);
        if (!notRanked.empty()) words += tr("Not ranked, since values are missing at most holes: %1. ").arg(notRanked.join(", "));
        return words;
    }

    /// The row with the smallest error but for the method in use: what that is to be compared with.
    int nextBest(int used) const {
        const auto error = [&](int row) {
            const double e = m_results[std::size_t(row)].rankError;
            return std::isnan(e) ? std::numeric_limits<double>::infinity() : e;
        };
        int next = used == 0 ? 1 : 0;
        for (int row = 0; row < int(m_results.size()); ++row)
            if (row != used && error(row) < error(next)) next = row;
        return next;
    }

    const MethodResult* chosen() const {
        const auto row = m_table->currentRow();
        return row >= 0 && row < int(m_results.size()) ? &m_results[std::size_t(row)] : nullptr;
    }

    void showMaps() {
        const auto* r = chosen();
        if (!r) return;
        const bool used = r->method == methodOf(unit().recipe);
        m_use->setEnabled(!used);
        m_use->setText(tr("Use %1").arg(QString::fromUtf8(methodInWords(r->method)).toLower()));
        auto frame = *products().frame;
        frame.cell = std::max(frame.xmax - frame.xmin, frame.ymax - frame.ymin) / 90;
        const auto level = [&](const Model& model) { return levelsOf(model, unitIndex(), frame); };
        const auto now = level(*products().model), other = level(withBase(*products().model, unitIndex(), r->base));
        double low = kNoValue, high = kNoValue;
        for (const auto* g : {&now, &other})
            for (const double v : g->values) low = std::fmin(low, v), high = std::fmax(high, v);
        m_now->setMap(now, tr("in use: %1").arg(QString::fromUtf8(methodInWords(methodOf(unit().recipe)))), low, high);
        m_other->setMap(other, QString::fromUtf8(methodInWords(r->method)), low, high);
        auto difference = other;
        for (std::size_t i = 0; i < difference.values.size(); ++i) difference.values[i] -= now.values[i];
        m_difference->setDifference(difference);
        m_difference->setWords(tr("%1 higher").arg(QString::fromUtf8(methodInWords(r->method)).toLower()), tr("lower"));
    }

    QTableWidget* m_table = new QTableWidget(this);
    QLabel* m_words = new QLabel(this);
    QPushButton* m_use = new QPushButton(this);
    GridMap *m_now = new GridMap(this), *m_other = new GridMap(this);
    DifferenceMap* m_difference = new DifferenceMap(this);
    std::vector<MethodResult> m_results;
    std::pair<std::shared_ptr<const BaseSurface>, std::size_t> m_shown; ///< held, so that its address can't come to mean another
    Background<std::vector<MethodResult>> m_work;                       // last: it uses the above
};

} // namespace

SurfacePage* makeMethodsPage(QWidget* parent) { return new MethodsPage(parent); }

} // namespace fox::app
