#include "views/chart_view.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/paper_image.h"
#include "views/save_drawing.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>

namespace fox::app {

namespace {

/// How far a mark of the drawing lies from a place, in millimetres; none of what is no mark.
std::optional<double> distanceOf(const paper::Item& item, Point2 at) {
    const auto* area = std::get_if<paper::FilledArea>(&item.shape);
    if ((item.layer != "values" && item.layer != "levels") || !area || area->rings.empty()) return {};
    Box2 box;
    for (const auto& p : area->rings.front()) box.include(p);
    return distance(box.centre(), at);
}

} // namespace

ChartView::ChartView(Selection* s, QWidget* parent)
    : View(s, parent),
      m_show(new QAction(tr("show"), this)),
      m_byDepth(new QAction(tr("by depth"), this)),
      m_save(new QAction(tr("save…"), this)) {
    setObjectName("chartView");
    setAccessibleName(tr("Chart of test results or water levels"));
    setMouseTracking(true);
    m_show->setToolTip(tr("Choose which results are shown, or the levels of water over time"));
    m_byDepth->setToolTip(tr("Against depth below the hole's top; else against level"));
    m_byDepth->setCheckable(true);
    m_save->setToolTip(tr("Save the chart as PNG, PDF or SVG, or its values and statistics as CSV"));
    connect(m_show, &QAction::triggered, this, &ChartView::showMenu);
    connect(m_byDepth, &QAction::toggled, this, &ChartView::draw);
    connect(m_save, &QAction::triggered, this, &ChartView::save);
    connect(selection(), &Selection::holeChanged, this, &ChartView::draw);
}

void ChartView::productsChanged() {
    m_quantities = products() ? testQuantities(*products()->project.holes) : std::vector<TestQuantity>{};
    m_series = products() ? waterSeries(*products()->project.holes) : std::vector<WaterSeries>{};
    chooseFirst();
}

void ChartView::chooseFirst() {
    const auto known = std::ranges::any_of(
        m_quantities, [&](const TestQuantity& q) { return qt(q.name) == m_quantity && qt(q.unit) == m_unit; });
    if (known || (isWater() && !m_series.empty())) return showQuantity(m_quantity, m_unit);
    if (!m_quantities.empty()) return showQuantity(qt(m_quantities.front().name), qt(m_quantities.front().unit));
    showQuantity(m_series.empty() ? QString() : QString(kWater), {});
}

void ChartView::showQuantity(const QString& name, const QString& unit) {
    m_quantity = name, m_unit = unit;
    m_byDepth->setEnabled(!isWater());
    m_values.clear();
    if (products() && !isWater() && !name.isEmpty())
        m_values = testValues({name.toStdString(), unit.toStdString(), 0}, *products()->project.holes, *products()->reading);
    draw();
    emit summaryChanged();
}

QString ChartView::summary() const {
    if (m_quantity.isEmpty()) return {};
    if (isWater()) {
        std::size_t n = 0;
        for (const auto& s : m_series) n += s.readings.size();
        return tr("Water over time: %1 in %2").arg(counted(qint64(n), "reading"), counted(qint64(m_series.size()), "point"));
    }
    const auto of = m_unit.isEmpty() ? m_quantity : tr("%1 in %2").arg(m_quantity, m_unit);
    return tr("%1: %2").arg(of, counted(qint64(m_values.size()), "value"));
}

void ChartView::showMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("chartMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& words, const QString& name, const QString& unit) {
        auto* a = menu->addAction(words, this, [=, this] { showQuantity(name, unit); });
        a->setCheckable(true);
        a->setChecked(name == m_quantity && unit == m_unit);
    };
    for (const auto& q : m_quantities)
        add(tr("%1 (%2)").arg(q.unit.empty() ? qt(q.name) : tr("%1 in %2").arg(qt(q.name), qt(q.unit))).arg(q.values), qt(q.name),
            qt(q.unit));
    if (!m_quantities.empty() && !m_series.empty()) menu->addSeparator();
    if (!m_series.empty()) add(tr("Water over time"), kWater, {});
    if (menu->isEmpty()) menu->addAction(tr("No results of tests and no readings of water yet"))->setEnabled(false);
    menu->popup(QCursor::pos());
}

void ChartView::draw() {
    m_drawing.reset();
    update();
}

paper::Drawing ChartView::drawingOf(double width, double height) const {
    const auto& holes = *products()->project.holes;
    std::optional<std::size_t> chosen;
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (qt(holes[i].name) == selection()->hole() && !selection()->hole().isEmpty()) chosen = i;
    if (isWater()) return drawWaterPlot({m_series, &holes, chosen, {}}, width, height);
    return drawValuePlot({{m_quantity.toStdString(), m_unit.toStdString(), m_values.size()},
                          m_values,
                          &holes,
                          products()->project.sequence.get(),
                          m_byDepth->isChecked(),
                          chosen},
                         width, height);
}

const paper::Drawing& ChartView::drawing() {
    if (!m_drawing) m_drawing = drawingOf(width() * kMillimetresPerPixel, height() * kMillimetresPerPixel);
    return *m_drawing;
}

QString ChartView::emptyWords() const {
    if (!products()) return tr("Working…");
    return m_quantity.isEmpty() ? tr("No results of tests and no readings of water yet: they come with AGS files and tables.")
                                : QString();
}

void ChartView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::paper);
    if (const auto words = emptyWords(); !words.isEmpty()) return paintEmpty(painter, rect(), words);
    painter.drawImage(QPointF(), imageOf(drawing(), devicePixelRatioF()));
}

void ChartView::resizeEvent(QResizeEvent* e) {
    View::resizeEvent(e);
    draw();
}

QString ChartView::holeAt(QPointF pixel) {
    if (!emptyWords().isEmpty()) return {};
    const Point2 at{pixel.x() * kMillimetresPerPixel, pixel.y() * kMillimetresPerPixel};
    double nearest = 2; // millimetres
    QString found;
    for (const auto& item : drawing().items)
        if (const auto far = distanceOf(item, at); far && *far < nearest) nearest = *far, found = qt(item.name);
    return found;
}

void ChartView::mousePressEvent(QMouseEvent* e) {
    if (const auto hole = holeAt(e->position()); !hole.isEmpty()) selection()->setHole(hole);
}

void ChartView::mouseMoveEvent(QMouseEvent* e) {
    const auto hole = holeAt(e->position());
    setCursor(hole.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    setToolTip(hole);
}

void ChartView::save() {
    if (!emptyWords().isEmpty()) return emit failed(tr("There is nothing in the chart to save."));
    auto start = m_quantity;
    start.replace(' ', '_').replace('/', '-');
    const auto path = askSaveFile(this, tr("Save the chart"), "pictures", start + ".png",
                                  drawingKinds() + tr(";;Values and statistics as CSV (*.csv)"), "png");
    if (path.isEmpty()) return;
    try {
        saveTo(path);
    } catch (const Error& e) {
        emit failed(QString::fromStdString(e.what()));
    }
}

void ChartView::saveTo(const QString& path) const {
    const std::filesystem::path target = path.toStdString();
    const auto ending = fox::lower(target.extension().string());
    const auto& p = products()->project;
    if (ending == ".csv") {
        if (isWater()) return writeBytes(target, waterCsv(*p.holes));
        const TestQuantity of{m_quantity.toStdString(), m_unit.toStdString(), m_values.size()};
        writeBytes(target, testValuesCsv(of, m_values, *p.holes, *p.sequence));
        auto beside = target;
        beside.replace_filename(target.stem().string() + "_by_unit.csv");
        return writeBytes(beside, statisticsCsv(of, statisticsByUnit(m_values), *p.sequence));
    }
    saveDrawing(path, drawingOf(260, 170));
}

} // namespace fox::app
