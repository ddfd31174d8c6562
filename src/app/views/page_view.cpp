#include "views/page_view.h"

#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/sheet_chart.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/block_picture.h"
#include "views/scene_drawer.h"
#include "views/sheet_choice.h"

#include <QClipboard>
#include <QDir>
#include <QFileDialog>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QSettings>
#include <QWheelEvent>

namespace fox::app {

PageView::PageView(Selection* s, QWidget* parent)
    : PannedView(s, parent),
      m_fit(new QAction(tr("fit"), this)),
      m_back(new QAction(tr("back"), this)),
      m_on(new QAction(tr("on"), this)),
      m_moveMap(new QAction(tr("move map"), this)),
      m_insert(new QAction(tr("insert…"), this)),
      m_filling(this),
      m_painting(this) {
    setObjectName("pageView");
    setAccessibleName(tr("Page of a sheet, as it is printed"));
    setFocusPolicy(Qt::StrongFocus);
    m_fit->setToolTip(tr("Show the whole page (F)"));
    m_back->setToolTip(tr("The page before (Page Up)"));
    m_on->setToolTip(tr("The next page (Page Down)"));
    m_moveMap->setCheckable(true);
    m_moveMap->setToolTip(tr("Drag the map in its frame, with its scale kept; the wheel takes the next usual scale"));
    m_insert->setToolTip(tr("Put a text, a line, a legend, a plan or something else on the page"));
    connect(m_fit, &QAction::triggered, this, &PageView::fit);
    connect(m_back, &QAction::triggered, this, [this] { turn(-1); });
    connect(m_on, &QAction::triggered, this, [this] { turn(1); });
    connect(m_insert, &QAction::triggered, this, &PageView::chooseWhatToInsert);
    for (const auto signal : {&Selection::holeChanged, &Selection::sectionChanged, &Selection::unitChanged,
                              &Selection::sheetTemplateChanged, &Selection::reportSheetChanged})
        connect(selection(), signal, this, &PageView::choiceChanged);
    connect(selection(), &Selection::sheetElementChanged, this, [this] {
        m_editor.choose(selection()->sheetElement());
        update();
    });
    connect(selection(), &Selection::reportNumbersChanged, this, [this] {
        if (!m_editor.dragging() && !m_mapDrag) fill();
    });
}

/// What is filled is painted too, if anybody can see it.
bool PageView::settled() const { return !m_filling.busy() && !m_painting.busy() && (!isVisible() || m_imageOf == drawing()); }

Wanted PageView::wanted(const Project& project) const {
    const auto& t = templateOf(*selection(), project);
    const auto item = sheetItemOf(*selection(), project);
    auto out = item ? wantedForSheet(t, *item) : Wanted{};
    if (item && hasBlockPicture(t)) out.add(wantedForBlockPicture());
    return out;
}

void PageView::productsChanged() {
    m_draft.reset(); // it is an edit now, or was refused
    fill();
}

void PageView::choiceChanged() {
    m_draft.reset();
    choose({});
    emit wantedChanged(); // what is not there yet comes with the next products
    fill();
}

void PageView::fill() {
    const auto item = products() ? sheetItemOf(*selection(), products()->project) : std::nullopt;
    if (!item) {
        m_sheet.reset();
        m_imageOf = nullptr;
        m_refused = products() ? tr("The project has no %1 to fill this template with.")
                                     .arg(QString(itemOf(templateOf(*selection(), products()->project).kind)))
                               : tr("Working…");
        emit summaryChanged();
        return update();
    }
    if (!m_draft && !m_editor.dragging()) m_editor.setLayout(templateOf(*selection(), products()->project), m_page);
    const auto t = m_draft ? *m_draft : m_editor.layout();
    // in the report it has the number that it has there
    std::size_t number = 0;
    const auto numbers = reportSheetOf(*selection(), products()->project) ? selection()->reportNumbers() : nullptr;
    if (numbers)
        if (const auto at = numbers->first.find({selection()->reportSheet(), *item}); at != numbers->first.end())
            number = at->second;
    const auto drawer = hasBlockPicture(t) ? SceneDrawer::shared() : nullptr;
    m_filling.start(
        [t, item = *item, products = products(), date = today().toStdString(), number, numbers, drawer,
         look = pictureLook(*selection(), products()->project)](const Progress&) {
            auto now = t;
            renewBlockPictures(now, *products, look, drawer.get());
            return fillSheet(now, item, *products, date,
                             numbers ? numbers->listed : std::vector<std::pair<std::string, std::size_t>>(), number,
                             number > 0 ? numbers->pages : 0);
        },
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
    if (!m_editor.dragging()) m_editor.setLayout(m_editor.layout(), m_page);
    m_imageOf = nullptr;
    m_moveMap->setEnabled(m_sheet->corner.has_value());
    if (!m_sheet->corner) m_moveMap->setChecked(false);
    if (before != worldBounds()) fit();
    emit summaryChanged();
    update();
}

void PageView::turn(int pages) {
    if (!m_sheet) return;
    const auto to = std::clamp<qint64>(qint64(m_page) + pages, 0, qint64(m_sheet->pages.size()) - 1);
    if (std::size_t(to) == m_page) return;
    m_page = std::size_t(to);
    m_editor.setLayout(m_editor.layout(), m_page);
    emit summaryChanged();
    update();
}

const paper::Drawing* PageView::drawing() const {
    return m_sheet && m_page < m_sheet->pages.size() ? &m_sheet->pages[m_page] : nullptr;
}

QString PageView::summary() const {
    if (!m_sheet) return {};
    if (!products()) return {};
    const auto* sheet = reportSheetOf(*selection(), products()->project);
    auto words = qt(sheet ? sheet->name : templateOf(*selection(), products()->project).name);
    if (!m_sheet->item.empty()) words += " · " + qt(m_sheet->item);
    if (m_sheet->pages.size() > 1) words += tr(" · page %1 of %2").arg(m_page + 1).arg(m_sheet->pages.size());
    if (m_sheet->scale > 0) words += QString(" · 1:%1").arg(m_sheet->scale, 0, 'g', 6);
    for (const auto& what : m_sheet->missing) words += tr(" · nothing for %1").arg(qt(what));
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
    paintHandles(painter);
}

/// Thin and grey under the cursor, with squares to take hold of where one is chosen.
void PageView::paintHandles(QPainter& painter) const {
    const auto onScreen = [this](const SheetElement& e) {
        const auto box = PageEditor::boxOf(e);
        return QRectF(screenOf(box.topLeft()), screenOf(box.bottomRight()));
    };
    const auto& elements = m_editor.layout().elements;
    painter.setBrush(Qt::NoBrush);
    if (m_hovered && *m_hovered < elements.size() && m_hovered != m_editor.chosen()) {
        painter.setPen(QPen(QColor(120, 114, 106, 160), 1));
        painter.drawRect(onScreen(elements[*m_hovered]));
    }
    if (!m_editor.chosen()) return;
    const auto box = onScreen(elements[*m_editor.chosen()]);
    painter.setPen(QPen(QColor(120, 114, 106), 1));
    painter.drawRect(box);
    painter.setBrush(Qt::white);
    constexpr double kHandle = 7; // pixels
    for (const double x : {box.left(), box.center().x(), box.right()})
        for (const double y : {box.top(), box.center().y(), box.bottom()})
            if (QPointF(x, y) != box.center()) painter.drawRect(QRectF(x - kHandle / 2, y - kHandle / 2, kHandle, kHandle));
}

QPointF PageView::onPage(QPointF pixels) const {
    const auto world = toWorld(pixels);
    return {world.x(), -world.y()};
}

double PageView::slack() const {
    constexpr double kPixels = 5;
    return kPixels / pixelsPerMetre();
}

void PageView::choose(std::optional<std::size_t> element) {
    m_editor.choose(element);
    selection()->setSheetElement(m_editor.chosen());
    update();
}

void PageView::showDraft() {
    m_draft = m_editor.layout();
    fill();
    update();
}

/// In the report's sheet; a template by itself becomes a sheet of it.
void PageView::keep(const std::string& words) {
    if (words.empty() || !products()) return;
    const auto layout = m_editor.layout();
    showDraft();
    const auto changed = changeLayout(*selection(), products()->project, layout, words);
    const auto chosen = m_editor.chosen();
    emit editMade(changed.edit);
    if (selection()->reportSheet() == changed.sheet) return;
    selection()->setReportSheet(changed.sheet); // it has been added
    m_editor.setLayout(layout, m_page);         // and is looked at before the products have it
    showDraft();
    choose(chosen);
}

void PageView::change(const std::function<void(SheetTemplate&)>& how, const std::string& words) {
    auto layout = m_editor.layout();
    how(layout);
    if (layout == m_editor.layout()) return;
    const auto chosen = m_editor.chosen();
    m_editor.setLayout(layout, m_page);
    m_editor.choose(chosen);
    keep(words);
}

void PageView::chooseWhatToInsert() {
    using Kind = SheetElement::Kind;
    auto* menu = new QMenu(this);
    menu->setObjectName("insertMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto kind : {Kind::Text, Kind::Line, Kind::Box, Kind::Legend, Kind::ScaleBar, Kind::NorthArrow, Kind::IndexPlan})
        menu->addAction(begun(words(kind)), this, [this, kind] { insert({kind}); });
    menu->addAction(tr("Page number"), this, [this] {
        SheetElement e;
        e.width = 40, e.height = 5;
        e.text = {{"Page ", ""}, {"", "page"}, {" of ", ""}, {"", "pages"}};
        insert(e);
    });
    const auto insertOf = [this](Kind kind, const std::string& what) {
        SheetElement e;
        e.kind = kind, e.what = what;
        insert(e);
    };
    menu->addAction(tr("Title block"), this, [this] {
        change(
            [this](SheetTemplate& t) {
                const std::string of = itemOf(t.kind);
                auto block = titleBlock(t.kind, t.width, t.height,
                                        of.empty() ? begun(t.name).toStdString() : begun(of.c_str()).toStdString() + " ");
                t.elements.insert(t.elements.end(), block.begin(), block.end());
            },
            "insert a title block");
    });
    auto* frames = menu->addMenu(tr("Frame"));
    if (products()) addFrames(*frames, insertOf);
    auto* tables = menu->addMenu(tr("Table"));
    for (const auto& [key, words] : sheetTables())
        tables->addAction(begun(words), this, [insertOf, key = key] { insertOf(Kind::Table, key); });
    auto* charts = menu->addMenu(tr("Chart"));
    charts->setObjectName("chartMenu");
    if (products())
        for (const auto& [key, words] : sheetCharts(*products()))
            charts->addAction(begun(words), this, [insertOf, key = key] { insertOf(Kind::Chart, key); });
    charts->setEnabled(!charts->isEmpty());
    menu->addAction(tr("Picture from a file…"), this, &PageView::insertPicture);
    menu->addAction(tr("Picture of the block"), this, [insertOf] { insertOf(Kind::Picture, "block"); })
        ->setEnabled(SceneDrawer::shared() != nullptr);
    menu->popup(QCursor::pos());
}

/// What can stand in a frame of its own: plans, and sections, correlations and logs of what the project has.
void PageView::addFrames(QMenu& menu, const std::function<void(SheetElement::Kind, const std::string&)>& insertOf) {
    const auto& project = products()->project;
    const auto add = [&](const QString& words, const std::string& what) {
        menu.addAction(words, this, [insertOf, what] { insertOf(SheetElement::Kind::Frame, what); });
    };
    add(tr("Plan"), "plan");
    add(tr("Geological map"), "map");
    for (const auto& s : *project.sections) {
        add(tr("Section %1").arg(qt(s.name)), "section:" + s.name);
        add(tr("Correlation along %1").arg(qt(s.name)), "correlation:" + s.name);
    }
    if (const auto* hole = findHole(*project.holes, selection()->hole().toStdString())) {
        const auto name = displayName(*project.holes, *hole);
        add(tr("Log of %1").arg(qt(name)), "log:" + name);
    }
    if (project.sequence->index(selection()->unit().toStdString()))
        add(tr("Contours of the base of %1").arg(selection()->unit()), "contours:" + selection()->unit().toStdString());
}

/// PNG and JPEG as they are; what else can be read becomes PNG.
void PageView::insertPicture() {
    QFileDialog dialog(window(), tr("Picture for the page"), QSettings().value("folderOf/pictures", QDir::homePath()).toString(),
                       tr("Pictures (*.png *.jpg *.jpeg *.svg *.bmp)"));
    dialog.setObjectName("pictureFileDialog");
    dialog.setFileMode(QFileDialog::ExistingFile);
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return;
    const auto path = dialog.selectedFiles().front();
    QSettings().setValue("folderOf/pictures", QFileInfo(path).absolutePath());
    const QImage image(path);
    if (image.isNull()) return emit failed(tr("%1 can't be read as a picture.").arg(QDir::toNativeSeparators(path)));
    QFile file(path);
    const auto ending = QFileInfo(path).suffix().toLower();
    const bool asItIs = ending == "png" || ending == "jpg" || ending == "jpeg";
    SheetElement e;
    e.kind = SheetElement::Kind::Picture;
    e.picture = asItIs && file.open(QIODevice::ReadOnly) ? file.readAll().toBase64().toStdString() : pictureLetters(image);
    e.width = 40, e.height = std::clamp(40.0 * image.height() / std::max(1, image.width()), 5.0, 200.0);
    insert(e);
}

/// In the middle of what is seen of the page.
void PageView::insert(SheetElement e) {
    using Kind = SheetElement::Kind;
    if (!drawing()) return;
    const auto kind = e.kind;
    if (kind == Kind::Text && e.text.empty()) e.width = 60, e.height = 6, e.text = {{"Text", ""}};
    if (kind == Kind::Frame) e.width = 150, e.height = 90;
    if (kind == Kind::Table) e.width = 150, e.height = 60;
    if (kind == Kind::Chart) e.width = 120, e.height = 80;
    if (kind == Kind::Picture && e.what == "block") {
        e.width = 120, e.height = 70;
        SheetTemplate alone; // kept with the sheet, for those who print it without a window
        alone.elements = {e};
        renewBlockPictures(alone, *products(), pictureLook(*selection(), products()->project), SceneDrawer::shared().get());
        e = alone.elements.front();
    }
    if (kind == Kind::Line) e.width = 60, e.height = 0;
    if (kind == Kind::Box) e.width = 60, e.height = 30;
    if (kind == Kind::Legend) e.width = 60, e.height = 60;
    if (kind == Kind::ScaleBar) e.width = 60, e.height = 8;
    if (kind == Kind::NorthArrow) e.width = 12, e.height = 14;
    if (kind == Kind::IndexPlan) e.width = 50, e.height = 40;
    const auto middle = onPage(rect().center());
    e.x = std::round(std::clamp(middle.x() - e.width / 2, 0.0, std::max(0.0, m_editor.layout().width - e.width)));
    e.y = std::round(std::clamp(middle.y() - e.height / 2, 0.0, std::max(0.0, m_editor.layout().height - e.height)));
    const auto at = m_editor.layout().elements.size();
    change([&](SheetTemplate& t) { t.elements.push_back(e); }, std::string("insert a ") + words(kind));
    m_editor.choose(at);
    choose(at);
}

const SheetElement* PageView::mapFrameAt(QPointF at) const {
    const auto& t = m_editor.layout();
    if (!m_moveMap->isChecked() || !m_sheet || !m_sheet->corner) return nullptr;
    for (const auto& e : t.elements)
        if (e.kind == SheetElement::Kind::Body && PageEditor::boxOf(e).contains(at)) return &e;
    return nullptr;
}

std::optional<Point2> PageView::mapCentre() const {
    for (const auto& e : m_editor.layout().elements)
        if (e.kind == SheetElement::Kind::Body && m_sheet && m_sheet->corner) {
            const auto middle = PageEditor::boxOf(e).center();
            const double metres = m_sheet->scale / 1000;
            return Point2{m_sheet->corner->x + middle.x() * metres, m_sheet->corner->y - middle.y() * metres};
        }
    return {};
}

void PageView::moveMap(QPointF to) {
    const double metres = m_mapDrag->scale / 1000;
    auto layout = m_mapDrag->before;
    layout.centre = Point2{m_mapDrag->centre.x - (to.x() - m_mapDrag->from.x()) * metres,
                           m_mapDrag->centre.y + (to.y() - m_mapDrag->from.y()) * metres};
    layout.scale = m_mapDrag->scale;
    layout.area.clear(); // it is another one now
    m_editor.setLayout(layout, m_page);
    showDraft();
}

/// Over a map that is to be moved: the next usual scale.
void PageView::wheelEvent(QWheelEvent* e) {
    if (!mapFrameAt(onPage(e->position())) || e->angleDelta().y() == 0) return PannedView::wheelEvent(e);
    const auto centre = mapCentre();
    const double now = m_sheet->scale, next = e->angleDelta().y() > 0 ? usualScaleBelow(now) : usualScale(now * 1.01);
    change(
        [&](SheetTemplate& t) {
            t.scale = next, t.centre = centre;
            t.area.clear();
        },
        "scale of a map");
    e->accept();
}

void PageView::mousePressEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton && mapFrameAt(onPage(e->position()))) {
        m_mapDrag = MapDrag{onPage(e->position()), mapCentre().value_or(Point2{}), m_sheet->scale, m_editor.layout()};
        setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (e->button() == Qt::LeftButton && drawing() && m_editor.press(onPage(e->position()), slack())) return;
    PannedView::mousePressEvent(e);
}

void PageView::mouseMoveEvent(QMouseEvent* e) {
    const auto at = onPage(e->position());
    if (m_mapDrag) return moveMap(at);
    if (m_editor.dragging()) {
        if (m_editor.drag(at)) showDraft();
        return;
    }
    if (!(e->buttons() & Qt::LeftButton) && drawing()) {
        using Hold = PageEditor::Hold;
        const auto hold = m_editor.holdAt(at, slack());
        if (mapFrameAt(at)) return setCursor(Qt::OpenHandCursor);
        setCursor(hold == Hold::Left || hold == Hold::Right            ? Qt::SizeHorCursor
                  : hold == Hold::Top || hold == Hold::Bottom          ? Qt::SizeVerCursor
                  : hold == Hold::TopLeft || hold == Hold::BottomRight ? Qt::SizeFDiagCursor
                  : hold == Hold::TopRight || hold == Hold::BottomLeft ? Qt::SizeBDiagCursor
                  : hold == Hold::Column                               ? Qt::SplitHCursor
                  : hold == Hold::Inside                               ? Qt::SizeAllCursor
                                                                       : Qt::ArrowCursor);
        const auto under = m_editor.elementAt(at);
        if (under != m_hovered) m_hovered = under, update();
    }
    PannedView::mouseMoveEvent(e);
}

void PageView::mouseReleaseEvent(QMouseEvent* e) {
    if (m_mapDrag) {
        const bool isMoved = m_editor.layout() != m_mapDrag->before;
        m_mapDrag.reset();
        setCursor(Qt::OpenHandCursor);
        if (isMoved) keep("move a map in its frame");
        return;
    }
    if (!m_editor.dragging()) return PannedView::mouseReleaseEvent(e);
    const bool isClick = m_editor.holdAt(onPage(e->position()), slack()) == PageEditor::Hold::Inside;
    const auto words = m_editor.release();
    if (!words.empty()) return keep(words);
    if (isClick) clicked(e->position());
}

void PageView::clicked(QPointF at) {
    setFocus();
    const auto element = drawing() ? m_editor.elementAt(onPage(at)) : std::nullopt;
    choose(element);
    if (!element || m_editor.layout().elements[*element].kind != SheetElement::Kind::Body) return;
    if (const auto column = m_editor.columnAt(onPage(at))) selection()->setSheetElement(element, *column);
}

/// Arrows move the chosen element by a millimetre, with Shift by a tenth; Delete takes it away; it is copied and pasted.
bool PageView::editByKey(QKeyEvent* e) {
    if (e->matches(QKeySequence::Paste)) {
        if (!m_editor.paste(QGuiApplication::clipboard()->text().toStdString()))
            emit failed(tr("There is no element to paste: copy one on a page first."));
        else
            keep("paste an element"), choose(m_editor.chosen());
        return true;
    }
    if (!m_editor.chosen()) return false;
    if (e->matches(QKeySequence::Copy) || e->matches(QKeySequence::Cut)) {
        QGuiApplication::clipboard()->setText(QString::fromStdString(m_editor.copied()));
        if (e->matches(QKeySequence::Cut) && m_editor.removeChosen()) keep("cut an element"), choose({});
        return true;
    }
    const double step = e->modifiers() & Qt::ShiftModifier ? 0.1 : 1;
    const int key = e->key();
    if (key == Qt::Key_Delete && m_editor.removeChosen())
        keep("remove an element"), choose({});
    else if (key == Qt::Key_Escape)
        m_editor.dragging() ? m_editor.cancel() : choose({});
    else if (key == Qt::Key_Left || key == Qt::Key_Right)
        m_editor.moveChosen(key == Qt::Key_Left ? -step : step, 0), keep("move an element");
    else if (key == Qt::Key_Up || key == Qt::Key_Down)
        m_editor.moveChosen(0, key == Qt::Key_Up ? -step : step), keep("move an element");
    else
        return false;
    return true;
}

void PageView::keyPressEvent(QKeyEvent* e) {
    if (drawing() && editByKey(e)) return;
    if (e->key() == Qt::Key_PageDown || e->key() == Qt::Key_PageUp) return turn(e->key() == Qt::Key_PageDown ? 1 : -1);
    PannedView::keyPressEvent(e);
}

} // namespace fox::app
