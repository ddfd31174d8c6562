#include "views/page_view.h"

#include "paper/render.h"
#include "style/theme.h"
#include "style/words.h"

#include <QDate>
#include <QKeyEvent>
#include <QPainter>

namespace fox::app {

const SheetTemplate& templateOf(const Selection& s) {
    return s.sheetTemplate() ? *s.sheetTemplate() : shippedTemplates().front();
}

std::optional<std::string> sheetItemOf(const SheetTemplate& t, const Project& project, const Selection& selection) {
    const auto items = itemsFor(t, project);
    if (items.empty()) return {};
    const std::string of = itemOf(t.kind);
    std::string wanted;
    if (of == "hole")
        if (const auto* hole = findHole(*project.holes, selection.hole().toStdString()))
            wanted = displayName(*project.holes, *hole);
    if (of == "section") wanted = selection.sectionOf(project)->name;
    if (of == "unit") wanted = selection.unit().toStdString();
    return std::ranges::count(items, wanted) > 0 ? wanted : items.front();
}

QString today() { return QDate::currentDate().toString(Qt::ISODate); }

PageView::PageView(Selection* s, QWidget* parent)
    : PannedView(s, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_back(new QAction(tr("back"), this)),
      m_on(new QAction(tr("on"), this)),
      m_save(new QAction(tr("save…"), this)),
      m_filling(this),
      m_painting(this) {
    setObjectName("pageView");
    setAccessibleName(tr("Page of a sheet, as it is printed"));
    setFocusPolicy(Qt::StrongFocus);
    m_fit->setToolTip(tr("Show the whole page (F)"));
    m_back->setToolTip(tr("The page before (Page Up)"));
    m_on->setToolTip(tr("The next page (Page Down)"));
    m_save->setToolTip(tr("Save this sheet as PDF, SVG, PNG or DXF"));
    connect(m_fit, &QAction::triggered, this, &PageView::fit);
    connect(m_back, &QAction::triggered, this, [this] { turn(-1); });
    connect(m_on, &QAction::triggered, this, [this] { turn(1); });
    connect(m_save, &QAction::triggered, this, &PageView::saveAsked);
    for (const auto signal :
         {&Selection::holeChanged, &Selection::sectionChanged, &Selection::unitChanged, &Selection::sheetTemplateChanged})
        connect(selection(), signal, this, &PageView::choiceChanged);
}

/// What is filled is painted too, if anybody can see it.
bool PageView::settled() const { return !m_filling.busy() && !m_painting.busy() && (!isVisible() || m_imageOf == drawing()); }

Wanted PageView::wanted(const Project& project) const {
    const auto& t = templateOf(*selection());
    const auto item = sheetItemOf(t, project, *selection());
    return item ? wantedForSheet(t, *item) : Wanted{};
}

void PageView::choiceChanged() {
    emit wantedChanged(); // what is not there yet comes with the next products
    fill();
}

void PageView::fill() {
    const auto& t = templateOf(*selection());
    const auto item = products() ? sheetItemOf(t, products()->project, *selection()) : std::nullopt;
    if (!item) {
        m_sheet.reset();
        m_imageOf = nullptr;
        m_refused =
            products() ? tr("The project has no %1 to fill this template with.").arg(QString(itemOf(t.kind))) : tr("Working…");
        emit summaryChanged();
        return update();
    }
    m_filling.start([t, item = *item, products = products(),
                     date = today().toStdString()](const Progress&) { return fillSheet(t, item, *products, date); },
                    [this](FilledSheet sheet) { filled(std::move(sheet)); },
                    [this](const QString& why) {
                        m_sheet.reset();
                        m_imageOf = nullptr;
                        m_refused = why;
                        emit summaryChanged();
                        update();
                    });
}

void PageView::filled(FilledSheet sheet) {
    const bool isSameItem = m_sheet && m_sheet->item == sheet.item;
    const auto before = worldBounds();
    m_sheet = std::make_shared<FilledSheet>(std::move(sheet));
    m_page = isSameItem ? std::min(m_page, m_sheet->pages.size() - 1) : 0;
    m_imageOf = nullptr;
    if (before != worldBounds()) fit();
    emit summaryChanged();
    update();
}

void PageView::turn(int pages) {
    if (!m_sheet) return;
    const auto to = std::clamp<qint64>(qint64(m_page) + pages, 0, qint64(m_sheet->pages.size()) - 1);
    if (std::size_t(to) == m_page) return;
    m_page = std::size_t(to);
    emit summaryChanged();
    update();
}

const paper::Drawing* PageView::drawing() const {
    return m_sheet && m_page < m_sheet->pages.size() ? &m_sheet->pages[m_page] : nullptr;
}

QString PageView::summary() const {
    if (!m_sheet) return {};
    auto words = QString::fromStdString(templateOf(*selection()).name);
    if (!m_sheet->item.empty()) words += " · " + qt(m_sheet->item);
    if (m_sheet->pages.size() > 1) words += tr(" · page %1 of %2").arg(m_page + 1).arg(m_sheet->pages.size());
    if (m_sheet->scale > 0) words += QString(" · 1:%1").arg(m_sheet->scale, 0, 'g', 6);
    if (m_sheet->overfull > 0) words += tr(" · %1 without room").arg(counted(qint64(m_sheet->overfull), "text"));
    return words;
}

QRectF PageView::worldBounds() const {
    const auto* page = drawing();
    return page ? QRectF(0, -page->height, page->width, page->height) : QRectF();
}

/// Beside the window: a map can have a million corners.
void PageView::paintAgain(double pixelsPerMillimetre) {
    constexpr double kMostPixels = 3e7; // 120 MB
    const auto* page = drawing();
    const double scale = std::min(pixelsPerMillimetre, std::sqrt(kMostPixels / (page->width * page->height)));
    if (m_imageOf == page && m_imageScale == scale) return;
    m_imageOf = page, m_imageScale = scale;
    m_painting.start(
        [sheet = m_sheet, page, scale](const Progress&) {
            const auto pixels = paper::toBitmap(*page, scale);
            QImage image(pixels.width, pixels.height, QImage::Format_ARGB32_Premultiplied);
            for (int row = 0; row < pixels.height; ++row)
                std::copy_n(pixels.pixels.data() + std::size_t(row) * std::size_t(pixels.width), pixels.width,
                            reinterpret_cast<std::uint32_t*>(image.scanLine(row)));
            return image;
        },
        [this](QImage image) {
            m_image = std::move(image);
            update();
        },
        [this](const QString& why) { emit failed(why); });
}

void PageView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::desk);
    const auto* page = drawing();
    if (!page) return paintEmpty(painter, rect(), m_refused);
    const QRectF sheet(toScreen(0, 0), toScreen(page->width, -page->height));
    painter.fillRect(sheet.translated(2, 2), QColor(0, 0, 0, 40));
    painter.fillRect(sheet, Qt::white); // paper, also where the window is dark
    paintAgain(pixelsPerMetre() * devicePixelRatioF());
    if (!m_image.isNull()) {
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(sheet, m_image);
    }
    painter.setPen(colour::line);
    painter.drawRect(sheet);
}

void PageView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_PageDown || e->key() == Qt::Key_PageUp) return turn(e->key() == Qt::Key_PageDown ? 1 : -1);
    PannedView::keyPressEvent(e);
}

} // namespace fox::app
