#include "dialogs/picture_sheet.h"

#include "base/errors.h"
#include "base/text.h"
#include "style/theme.h"
#include "views/number_box.h"

#include <QCheckBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSlider>
#include <QTableWidget>

namespace fox::app {

MarkCanvas::MarkCanvas(QImage image, QWidget* parent) : QWidget(parent), m_image(std::move(image)) {
    setObjectName("markCanvas");
    setAccessibleName(tr("The image; click to set a control point"));
    setMinimumSize(300, 240);
    setCursor(Qt::CrossCursor);
}

void MarkCanvas::setMarks(std::vector<Point2> pixels, int chosen) {
    m_marks = std::move(pixels);
    m_chosen = chosen;
    update();
}

void MarkCanvas::resizeEvent(QResizeEvent*) {
    if (m_image.isNull()) return;
    m_scale = std::min(double(width()) / m_image.width(), double(height()) / m_image.height());
    m_origin = {(width() - m_image.width() * m_scale) / 2, (height() - m_image.height() * m_scale) / 2};
}

void MarkCanvas::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::desk);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.drawImage(QRectF(m_origin, QSizeF(m_image.size()) * m_scale), m_image);
    painter.setFont(bodyFont(12, true));
    for (std::size_t i = 0; i < m_marks.size(); ++i) {
        const auto at = screenOf(m_marks[i]);
        painter.setPen(QPen(int(i) == m_chosen ? colour::fox : colour::ink, 2));
        painter.drawEllipse(at, 7, 7);
        painter.drawLine(at - QPointF(11, 0), at + QPointF(11, 0));
        painter.drawLine(at - QPointF(0, 11), at + QPointF(0, 11));
        painter.drawText(at + QPointF(9, -9), QString::number(i + 1));
    }
}

void MarkCanvas::wheelEvent(QWheelEvent* e) {
    const auto under = (e->position() - m_origin) / m_scale;
    m_scale *= std::pow(1.2, e->angleDelta().y() / 120.0);
    m_origin = e->position() - under * m_scale;
    update();
}

void MarkCanvas::mousePressEvent(QMouseEvent* e) {
    m_pressed = e->position();
    m_dragged = false;
}

void MarkCanvas::mouseMoveEvent(QMouseEvent* e) {
    if (!(e->buttons() & Qt::LeftButton)) return;
    if (!m_dragged && (e->position() - m_pressed).manhattanLength() < 4) return;
    m_dragged = true;
    m_origin += e->position() - m_pressed;
    m_pressed = e->position();
    update();
}

void MarkCanvas::mouseReleaseEvent(QMouseEvent* e) {
    if (m_dragged || m_scale <= 0) return;
    const auto pixel = (e->position() - m_origin) / m_scale;
    if (QRectF(m_image.rect()).contains(pixel)) emit picked({pixel.x(), pixel.y()});
}

PictureSheet::PictureSheet(std::shared_ptr<const ProductSet> products, const QString& file, QWidget* parent)
    : QDialog(parent), m_products(std::move(products)) {
    setObjectName("pictureSheet");
    setWindowTitle(tr("Place %1").arg(file));
    resize(940, 600);
    const auto& all = *m_products->project.pictures;
    const auto at = std::size_t(std::ranges::find(all, file.toStdString(), &PlacedPicture::file) - all.begin());
    QImage image;
    if (at < all.size()) {
        m_picture = all[at];
        if (const auto p = at < m_products->pictures.size() ? m_products->pictures[at] : nullptr)
            image = QImage(p->rgba.data(), p->width, p->height, QImage::Format_RGBA8888);
    }
    for (const auto& m : m_picture.marks) m_pixels.push_back(m.pixel), m_places.push_back(m.place);
    m_canvas = new MarkCanvas(image, this);
    m_table = new QTableWidget(0, 4, this);
    m_table->setObjectName("markTable");
    m_table->setHorizontalHeaderLabels({tr("Control point"), tr("Easting"), tr("Northing"), tr("Misfit")});
    m_table->verticalHeader()->hide();
    m_table->setColumnWidth(0, 44);
    m_table->setColumnWidth(1, 110);
    m_table->setColumnWidth(2, 110);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_words = new QLabel(this);
    m_words->setWordWrap(true);
    m_words->setObjectName("markWords");
    m_opacity = new QSlider(Qt::Horizontal, this);
    m_opacity->setRange(5, 100);
    m_opacity->setValue(int(m_picture.opacity * 100));
    m_opacity->setAccessibleName(tr("Opacity of the image"));
    m_draped = new QCheckBox(tr("draped over the ground in 3D"), this);
    m_draped->setObjectName("pictureDraped");
    m_draped->setChecked(m_picture.draped);
    auto* point = new QPushButton(tr("Point at it on the plan"), this);
    point->setObjectName("markOnPlan");
    point->setToolTip(tr("Coordinates of the chosen control point, by a click on the plan"));
    auto* remove = new QPushButton(tr("Remove the control point"), this);
    m_place = new QPushButton(tr("Apply"), this);
    m_place->setObjectName("placePicture");
    m_place->setProperty("main", true);
    auto* out = new QPushButton(tr("Remove"), this);
    auto* close = new QPushButton(tr("Close"), this);
    auto* form = new QFormLayout;
    form->addRow(tr("Opacity"), m_opacity);
    form->addRow(QString(), m_draped);
    auto* marks = new QHBoxLayout;
    marks->addWidget(point);
    marks->addWidget(remove);
    auto* right = new QVBoxLayout;
    auto* how =
        new QLabel(tr("Click spots on the picture whose coordinates you know, such as crosses of its grid, and type "
                      "easting and northing, or point at the same spot on the plan. Three control points are enough; more show "
                      "how well they fit."),
                   this);
    how->setWordWrap(true);
    how->setProperty("muted", true);
    right->addWidget(how);
    right->addWidget(m_table, 1);
    right->addLayout(marks);
    right->addWidget(m_words);
    right->addLayout(form);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(out);
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(m_place);
    right->addLayout(buttons);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(20, 16, 20, 16);
    columns->addWidget(m_canvas, 3);
    columns->addLayout(right, 2);
    connect(m_canvas, &MarkCanvas::picked, this, &PictureSheet::addMark);
    connect(m_table, &QTableWidget::itemChanged, this, [this] {
        if (!m_filling) takeTable();
    });
    connect(m_table, &QTableWidget::currentCellChanged, this, [this] {
        if (!m_filling) m_canvas->setMarks(m_pixels, m_table->currentRow());
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        const int row = m_table->currentRow();
        if (row < 0 || row >= int(m_pixels.size())) return;
        m_pixels.erase(m_pixels.begin() + row);
        m_places.erase(m_places.begin() + row);
        fillTable();
    });
    connect(point, &QPushButton::clicked, this, [this] {
        if (m_table->currentRow() >= 0) emit placeAsked();
    });
    connect(m_place, &QPushButton::clicked, this, &PictureSheet::place);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(out, &QPushButton::clicked, this, [this] {
        emit editMade([file = m_picture.file](const Project& p) { return removeSource(p, file); });
        accept();
    });
    connect(m_opacity, &QSlider::sliderReleased, this, [this] {
        emit editMade([file = m_picture.file, opacity = m_opacity->value() / 100.0](const Project& p) {
            return changePicture(p, file, [&](PlacedPicture& picture) { picture.opacity = opacity; });
        });
    });
    connect(m_draped, &QCheckBox::toggled, this, [this](bool on) {
        emit editMade([file = m_picture.file, on](const Project& p) {
            return changePicture(p, file, [&](PlacedPicture& picture) { picture.draped = on; });
        });
    });
    fillTable();
}

void PictureSheet::follow(const Project& project) {
    const auto now = std::ranges::find(*project.pictures, m_picture.file, &PlacedPicture::file);
    if (now == project.pictures->end()) return reject(); // it was removed meanwhile
    const QSignalBlocker quiet(m_draped);
    m_draped->setChecked(now->draped);
    if (!m_opacity->isSliderDown()) m_opacity->setValue(int(std::lround(now->opacity * 100)));
}

void PictureSheet::addMark(Point2 pixel) {
    constexpr double kNear = 12; // pixels of the screen: the mark there is moved
    for (std::size_t i = 0; i < m_pixels.size(); ++i)
        if (QLineF(m_canvas->screenOf(m_pixels[i]), m_canvas->screenOf(pixel)).length() < kNear) {
            m_pixels[i] = pixel;
            fillTable();
            m_table->setCurrentCell(int(i), 1);
            return;
        }
    m_pixels.push_back(pixel);
    m_places.emplace_back();
    fillTable();
    m_table->setCurrentCell(int(m_pixels.size()) - 1, 1);
}

void PictureSheet::setPlace(Point2 p) {
    const int row = m_table->currentRow();
    if (row < 0 || row >= int(m_places.size())) return;
    m_places[std::size_t(row)] = p;
    fillTable();
    m_table->setCurrentCell(row, 1);
}

void PictureSheet::fillTable() {
    m_filling = true;
    m_table->setRowCount(int(m_pixels.size()));
    for (int i = 0; i < int(m_pixels.size()); ++i) {
        auto* number = new QTableWidgetItem(QString::number(i + 1));
        number->setFlags(number->flags() & ~Qt::ItemIsEditable);
        m_table->setItem(i, 0, number);
        const auto& p = m_places[std::size_t(i)];
        m_table->setItem(i, 1, new QTableWidgetItem(p ? QString::number(p->x, 'f', 2) : QString()));
        m_table->setItem(i, 2, new QTableWidgetItem(p ? QString::number(p->y, 'f', 2) : QString()));
        auto* off = new QTableWidgetItem;
        off->setFlags(off->flags() & ~Qt::ItemIsEditable);
        m_table->setItem(i, 3, off);
    }
    m_filling = false;
    m_canvas->setMarks(m_pixels, m_table->currentRow());
    showFit();
}

std::optional<double> PictureSheet::numberIn(QTableWidgetItem& cell) {
    const auto number = typedNumber(cell.text());
    const bool wrong = !number && !cell.text().trimmed().isEmpty();
    m_filling = true; // how it looks is not an edit
    cell.setForeground(wrong ? colour::red : colour::ink);
    cell.setToolTip(wrong ? tr("This is not a number, so that the point is not used.") : QString());
    m_filling = false;
    return number;
}

void PictureSheet::takeTable() {
    for (int i = 0; i < int(m_pixels.size()); ++i) {
        const auto x = numberIn(*m_table->item(i, 1)), y = numberIn(*m_table->item(i, 2));
        m_places[std::size_t(i)] = x && y ? std::optional(Point2{*x, *y}) : std::nullopt;
    }
    showFit();
}

void PictureSheet::showFit() {
    std::vector<ControlPoint> marks;
    std::vector<int> rows;
    for (std::size_t i = 0; i < m_pixels.size(); ++i)
        if (m_places[i]) marks.push_back({m_pixels[i], *m_places[i]}), rows.push_back(int(i));
    m_place->setEnabled(false);
    m_words->setStyleSheet({});
    if (marks.size() < 3) {
        m_words->setText(tr("%1 of at least 3 control points have coordinates.").arg(marks.size()));
        return;
    }
    try {
        const auto fit = fitGeoreference(marks);
        m_filling = true;
        for (std::size_t k = 0; k < rows.size(); ++k)
            m_table->item(rows[k], 3)->setText(marks.size() > 3 ? metres(fit.residuals[k]) : QString());
        m_filling = false;
        QStringList words{marks.size() == 3 ? tr("Three control points fit exactly; a fourth would show how well.")
                                            : tr("Root-mean-square of what is left over: %1.").arg(metres(fit.rms))};
        for (const auto& f : fit.findings) words << QString::fromStdString(f.message);
        if (!fit.findings.empty()) m_words->setStyleSheet(QString("color: %1;").arg(colour::amberText.name()));
        m_words->setText(words.join(" "));
        m_place->setEnabled(true);
    } catch (const Error& e) {
        m_words->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
        m_words->setText(QString::fromStdString(e.what()));
    }
}

void PictureSheet::place() {
    std::vector<ControlPoint> marks;
    for (std::size_t i = 0; i < m_pixels.size(); ++i)
        if (m_places[i]) marks.push_back({m_pixels[i], *m_places[i]});
    emit editMade([file = m_picture.file, marks](const Project& p) { return placePicture(p, file, marks); });
    accept(); // the button is there only while the marks fit
}

} // namespace fox::app
