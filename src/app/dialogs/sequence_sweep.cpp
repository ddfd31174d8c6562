#include "base/errors.h"
#include "dialogs/sequence_sheet.h"
#include "sequence/sweep.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>

namespace fox::app {

namespace {

/// A plane by strike and dip that a slider moves down through the holes; what it sweeps up is counted as it slides.
class SweepPage : public SequencePage {
public:
    explicit SweepPage(QWidget* parent) : SequencePage(parent) {
        m_unit->setObjectName("sweepUnit");
        m_codes->setObjectName("sweepCodes");
        m_level->setObjectName("sweepLevel");
        m_slider->setObjectName("sweepSlider");
        m_take->setObjectName("sweepTake");
        m_fitted->setObjectName("sweepFit");
        m_result->setObjectName("sweepResult");
        setUp(m_strike, "sweepStrike", 0, 359.9, 1, tr("°"), tr("Clockwise from north; the plane dips to its right"));
        setUp(m_dip, "sweepDip", 0, 80, 1, tr("°"), tr("Below the horizontal"));
        setUp(m_tolerance, "sweepTolerance", 0, 50, 2, tr(" m"),
              tr("How far an interval may reach below the plane and still be assigned"));
        m_tolerance->setValue(0.5);
        setUp(m_level, "sweepLevel", -10000, 10000, 2, tr(" m"), tr("Level of the plane in the middle of the holes"));
        m_slider->setRange(0, 1000);
        m_slider->setInvertedAppearance(false);
        m_codes->setPlaceholderText(tr("codes, or materials such as clay"));
        auto* planeRow = new QHBoxLayout;
        planeRow->addWidget(m_strike);
        planeRow->addWidget(new QLabel(tr("dip"), this));
        planeRow->addWidget(m_dip);
        planeRow->addWidget(m_fitted);
        auto* form = new QFormLayout;
        form->addRow(tr("Becomes"), m_unit);
        form->addRow(tr("Logged as"), m_codes);
        form->addRow(tr("Strike"), planeRow);
        form->addRow(tr("Level in the middle"), m_level);
        form->addRow(tr("Slide"), m_slider);
        form->addRow(tr("Tolerance"), m_tolerance);
        form->addRow(QString(), m_keep);
        m_keep->setChecked(true);
        m_keep->setToolTip(tr("On: intervals that were given another unit stay with it"));
        m_holes->setObjectName("sweepHoles");
        m_holes->setColumnCount(3);
        m_holes->setHorizontalHeaderLabels({tr("Hole"), tr("Taken"), tr("The plane is at")});
        m_holes->horizontalHeader()->setStretchLastSection(true);
        m_holes->setColumnWidth(0, 140);
        m_holes->setColumnWidth(1, 60);
        m_holes->verticalHeader()->hide();
        m_holes->setShowGrid(false);
        m_holes->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_holes->setToolTip(tr("Untick a hole to exclude it from the plane and from the fit"));
        m_result->setWordWrap(true);
        m_take->setProperty("main", true);
        m_fitted->setToolTip(tr("Take the plane through the observed contacts of this unit's base in the ticked holes"));
        auto* row = new QHBoxLayout;
        auto* left = new QVBoxLayout;
        left->addLayout(form);
        left->addWidget(m_result, 1, Qt::AlignTop);
        left->addWidget(m_take, 0, Qt::AlignRight);
        row->addLayout(left, 4);
        row->addWidget(m_holes, 3);
        setLayout(row);
        connect(m_unit, &QComboBox::activated, this, [this] { unitChanged(); });
        connect(m_codes, &QLineEdit::textChanged, this, [this] { sweepNow(); });
        for (auto* box : {m_strike, m_dip, m_tolerance})
            connect(box, &QDoubleSpinBox::valueChanged, this, [this] { sweepNow(); });
        connect(m_level, &QDoubleSpinBox::valueChanged, this, [this] {
            placeSlider();
            sweepNow();
        });
        connect(m_slider, &QSlider::valueChanged, this, [this](int v) {
            if (!m_filling) m_level->setValue(m_highest - (m_highest - m_lowest) * v / 1000);
        });
        connect(m_keep, &QCheckBox::toggled, this, [this] { sweepNow(); });
        connect(m_holes, &QTableWidget::itemChanged, this, [this] { sweepNow(); });
        connect(m_holes, &QTableWidget::currentCellChanged, this, [this](int r) {
            if (r >= 0 && m_holes->item(r, 0)) emit holeChosen(m_holes->item(r, 0)->text());
        });
        connect(m_fitted, &QPushButton::clicked, this, [this] { fitPlane(); });
        connect(m_take, &QPushButton::clicked, this, [this] { take(); });
    }

    void setUnit(const QString& code) override {
        if (const int i = m_unit->findData(code); i >= 0 && i != m_unit->currentIndex()) {
            m_unit->setCurrentIndex(i);
            unitChanged();
        }
    }

protected:
    void fill() override {
        m_filling = true;
        const auto now = m_unit->currentData().toString();
        m_unit->clear();
        for (const auto& u : products().project.sequence->units)
            m_unit->addItem(QIcon(swatch(u)), qt(u.code) + "  " + qt(u.name), qt(u.code));
        m_unit->setCurrentIndex(std::max(0, m_unit->findData(now)));
        if (m_known != products().project.holes) fillHoles();
        m_filling = false;
        sweepNow();
    }

private:
    void setUp(QDoubleSpinBox* box, const char* name, double low, double high, int decimals, const QString& suffix,
               const QString& tip) {
        box->setObjectName(name);
        box->setRange(low, high);
        box->setDecimals(decimals);
        box->setSuffix(suffix);
        box->setToolTip(tip);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    }

    /// Where the plane can be slid: all levels of all logs; its middle is that of the holes.
    void fillHoles() {
        m_known = products().project.holes;
        Box2 box;
        m_lowest = m_highest = kNoValue;
        std::vector<std::string> names;
        for (const auto& read : products().reading->holes) {
            const auto path = HolePath::of(*read.hole);
            if (!path || read.hole->intervals.empty()) continue;
            box.include(path->at({}).plan());
            m_highest = std::fmax(m_highest, path->at({}).z);
            m_lowest = std::fmin(m_lowest, path->at(read.hole->end()).z);
            names.push_back(read.name);
        }
        m_through = box.empty() ? Point2{} : box.centre();
        if (std::isnan(m_highest)) m_highest = 0, m_lowest = -1;
        m_holes->setRowCount(int(names.size()));
        for (int r = 0; r < int(names.size()); ++r) {
            auto* item = new QTableWidgetItem(qt(names[std::size_t(r)]));
            item->setCheckState(Qt::Checked);
            m_holes->setItem(r, 0, item);
            for (int c = 1; c < 3; ++c) m_holes->setItem(r, c, new QTableWidgetItem);
        }
        m_level->setValue(m_highest);
        placeSlider();
    }

    void placeSlider() {
        const bool was = std::exchange(m_filling, true);
        if (m_highest > m_lowest)
            m_slider->setValue(int(std::lround((m_highest - m_level->value()) / (m_highest - m_lowest) * 1000)));
        m_filling = was;
    }

    void unitChanged() {
        const auto u = products().project.sequence->index(m_unit->currentData().toString().toStdString());
        if (!u) return;
        const auto& unit = products().project.sequence->units[*u];
        QStringList codes;
        for (const auto& c : unit.logged) codes << qt(c);
        m_codes->setText(codes.isEmpty() ? qt(unit.code) : codes.join(", "));
        sweepNow();
    }

    void fitPlane() {
        const auto u = products().project.sequence->index(m_unit->currentData().toString().toStdString());
        if (!u || *u >= products().contacts.size()) return emit failed(tr("The oldest unit has no base to fit a plane to."));
        std::vector<std::string> ticked;
        for (int r = 0; r < m_holes->rowCount(); ++r)
            if (m_holes->item(r, 0)->checkState() == Qt::Checked) ticked.push_back(m_holes->item(r, 0)->text().toStdString());
        if (ticked.empty()) return emit failed(tr("Tick the holes whose contacts the plane is to fit."));
        const auto plane = planeOfContacts(*products().contacts[*u], ticked);
        if (!plane) return emit failed(tr("A plane needs three observed contacts of the unit's base that are not on one line."));
        m_filling = true;
        m_strike->setValue(plane->strike());
        m_dip->setValue(plane->dip());
        m_level->setValue(plane->at(m_through));
        m_filling = false;
        placeSlider();
        sweepNow();
    }

    Sweep now() const {
        Sweep s;
        s.unit = m_unit->currentData().toString().toStdString();
        for (const auto& c : m_codes->text().split(',', Qt::SkipEmptyParts)) s.codes.push_back(c.trimmed().toStdString());
        s.tilt = {m_strike->value(), m_dip->value()};
        s.level = m_level->value();
        s.through = m_through;
        s.tolerance = m_tolerance->value();
        for (int r = 0; r < m_holes->rowCount(); ++r)
            if (m_holes->item(r, 0)->checkState() != Qt::Checked) s.holesOut.push_back(m_holes->item(r, 0)->text().toStdString());
        s.keepChoices = m_keep->isChecked();
        return s;
    }

    void sweepNow() {
        if (m_filling || !hasProducts()) return;
        m_filling = true;
        const auto how = now();
        const auto& p = products().project;
        m_swept = sweep(*p.holes, *p.sequence, *p.interpretation, how);
        QStringList words{tr("Above the plane: <b>%1 in %2</b>.")
                              .arg(counted(qint64(m_swept.taken.size()), "interval"), counted(qint64(m_swept.holes), "hole"))};
        if (!m_swept.cut.empty())
            words << tr("It goes through %1, the first in %2.")
                         .arg(counted(qint64(m_swept.cut.size()), "interval"), qt(m_swept.cut[0].hole));
        if (m_swept.conflicts.empty())
            words << tr("No hole would be out of order.");
        else
            words << tr("<b>Out of order: %1</b>").arg(counted(qint64(m_swept.conflicts.size()), "hole"));
        constexpr std::size_t kShown = 6;
        for (std::size_t i = 0; i < std::min(kShown, m_swept.conflicts.size()); ++i) words << qt(m_swept.conflicts[i]);
        m_result->setText(words.join("<br>"));
        m_take->setText(tr("Assign %1 to %2").arg(counted(qint64(m_swept.taken.size()), "interval"), qt(how.unit)));
        m_take->setEnabled(!m_swept.taken.empty());
        const auto plane = planeOf(how.tilt.strike, how.tilt.dip, {how.through.x, how.through.y, how.level});
        for (int r = 0; r < m_holes->rowCount(); ++r) {
            const auto name = m_holes->item(r, 0)->text().toStdString();
            const auto taken = std::ranges::count(m_swept.taken, name, &IntervalChoice::hole);
            m_holes->item(r, 1)->setText(taken > 0 ? QString::number(taken) : QString());
            if (const auto* h = findHole(*p.holes, name); h && h->place())
                m_holes->item(r, 2)->setText(metres(plane.at(*h->place()), 1));
        }
        m_filling = false;
    }

    void take() {
        emit editMade(
            [taken = m_swept.taken, label = tr("Assign %1 to %2")
                                                .arg(counted(qint64(m_swept.taken.size()), "interval"))
                                                .arg(m_unit->currentData().toString())
                                                .toStdString()](const Project& p) { return setIntervals(p, taken, label); });
    }

    QComboBox* m_unit = new QComboBox(this);
    QLineEdit* m_codes = new QLineEdit(this);
    QDoubleSpinBox* m_strike = new NumberBox(this);
    QDoubleSpinBox* m_dip = new NumberBox(this);
    QDoubleSpinBox* m_level = new NumberBox(this);
    QDoubleSpinBox* m_tolerance = new NumberBox(this);
    QSlider* m_slider = new QSlider(Qt::Horizontal, this);
    QCheckBox* m_keep = new QCheckBox(tr("Keep what was chosen before"), this);
    QPushButton* m_fitted = new QPushButton(tr("Fit"), this);
    QPushButton* m_take = new QPushButton(this);
    QLabel* m_result = new QLabel(this);
    QTableWidget* m_holes = new QTableWidget(this);
    Part<Holes> m_known;
    Point2 m_through;
    double m_lowest = kNoValue, m_highest = kNoValue;
    SweepResult m_swept;
    bool m_filling = false;
};

} // namespace

SequencePage* makeSweepPage(QWidget* parent) { return new SweepPage(parent); }

} // namespace fox::app
