#include "stages/site_shelf.h"

#include "base/errors.h"
#include "formats/crs.h"
#include "products/grid_products.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/system_edit.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QLocale>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>

namespace fox::app {

QString extentInWords(const Frame& f) {
    if (f.xmax - f.xmin < 1000)
        return QString::fromUtf8("%1 × %2 m").arg(f.xmax - f.xmin, 0, 'f', 0).arg(f.ymax - f.ymin, 0, 'f', 0);
    return QString::fromUtf8("%1 × %2 km").arg((f.xmax - f.xmin) / 1000, 0, 'f', 1).arg((f.ymax - f.ymin) / 1000, 0, 'f', 1);
}

SiteShelf::SiteShelf(Selection* s, QWidget* parent) : Shelf(tr("Site"), s, parent) {
    connect(mainButton(tr("Import…"), tr("Bring in AGS files or a survey")), &QPushButton::clicked, this,
            [this] { emit actionAsked(ImportFiles{}); });
}

void SiteShelf::fillBody() {
    const auto& p = products()->project;
    heading(tr("Coordinate system"));
    row(p.site->crs.empty() ? tr("not set") : QString::fromStdString(p.site->crs), tr("levels in metres"));
    if (!p.site->crs.empty()) words(systemWords(p.site->crs));
    heading(tr("Extent"));
    if (!products()->frame) return words(tr("There is nothing yet to take an extent from. Import holes or a survey first."));
    const auto& f = *products()->frame;
    row(extentInWords(f), p.site->frame ? tr("as set") : tr("from the holes"));
    row(tr("site limit"), p.site->limit.empty() ? tr("none") : counted(qint64(p.site->limit.size()), "corner"));
    fillLimit();
    int outside = 0;
    for (const auto& h : *p.holes)
        if (const auto at = h.place()) outside += at->x < f.xmin || at->x > f.xmax || at->y < f.ymin || at->y > f.ymax;
    if (outside > 0) {
        words(tr("Outside the extent: %1. They shape the model but are not seen in it.").arg(counted(outside, "hole")),
              colour::amberText);
        offer(tr("Extent from what there is"),
              [this] { emit editMade([](const Project& now) { return setFrame(now, std::nullopt); }); });
    }
    heading(tr("What there is"));
    row(tr("Holes"), QString::number(p.holes->size()));
    row(tr("Ground triangles"), QString::number(products()->terrain->tin.triangles().size()));
    row(tr("Units"), QString::number(p.sequence->units.size()));
    row(tr("Section lines"), QString::number(p.sections->size()));
    heading(tr("Files"));
    for (const auto& file : *p.files) row(QString::fromStdString(file.name), QString::fromStdString(file.format));
}

/// Drawn, taken from an outline, or removed.
void SiteShelf::fillLimit() {
    auto* button = new QPushButton(tr("Set site limit…"), this);
    button->setObjectName("siteLimit");
    button->setToolTip(tr("No ground and no model outside the site limit"));
    auto* menu = new QMenu(button);
    menu->addAction(tr("Draw it on the plan"), this, [this] { emit actionAsked(DrawOnPlan{DrawOnPlan::What::SiteLimit}); });
    for (const auto& o : products()->project.ground->outlines)
        menu->addAction(tr("From %1").arg(QString::fromStdString(o.name)), this,
                        [this, o] { emit editMade([o](const Project& p) { return setSiteLimitFrom(p, o); }); });
    auto* remove =
        menu->addAction(tr("Remove it"), this, [this] { emit editMade([](const Project& p) { return setSiteLimit(p, {}); }); });
    remove->setEnabled(!products()->project.site->limit.empty());
    button->setMenu(menu);
    wide(button);
}

void SiteShelf::fillCard() {
    if (!products()->frame) {
        cardTitle(tr("Site"), {});
        return cardSystem();
    }
    cardTitle(tr("Grid"), tr("%L1 cells").arg(products()->frame->cells()));
    cardSystem();
    cardFrame();
}

void SiteShelf::cardSystem() {
    auto* system = new SystemEdit;
    if (const auto& frame = products()->frame; frame && products()->project.site->crs.empty())
        system->setPosition(frame->box().centre());
    system->setSystem(QString::fromStdString(products()->project.site->crs));
    system->setObjectName("systemEdit");
    system->setPlaceholderText(tr("EPSG number, name or area"));
    connect(system, &SystemEdit::systemChosen, this, [this, system](const QString& code) {
        system->setModified(false);
        changeSystem(code.toStdString());
    });
    connect(system, &QLineEdit::editingFinished, this, [this, system] {
        if (!system->isModified()) return; // it loses the focus when the panel is filled anew, too
        system->setModified(false);
        changeSystem(system->text().trimmed().toStdString());
    });
    cardWidget(tr("System"), system);
}

void SiteShelf::changeSystem(const std::string& typed) {
    const auto before = products()->project.site->crs;
    const auto known = projectedSystem(typed);
    if (m_asking || typed == before || known == before) return;
    const bool hasData = products()->frame.has_value();
    if (before.empty() || !known || !hasData) return emit editMade([typed](const Project& p) { return setSystem(p, typed); });
    QMessageBox box(QMessageBox::Question, tr("Fox Cellar"),
                    tr("The project has data in %1.").arg(QString::fromStdString(before)), QMessageBox::Cancel, window());
    box.setObjectName("systemBox");
    box.setInformativeText(tr("Move it: every place is brought to %1. Rename: the numbers stay, and are in %1 from now on.")
                               .arg(QString::fromStdString(*known)));
    const auto* move = box.addButton(tr("Move the data"), QMessageBox::AcceptRole);
    const auto* rename = box.addButton(tr("Only the name was wrong"), QMessageBox::AcceptRole);
    m_asking = true; // the field loses the focus to the box, which would ask again
    box.exec();
    m_asking = false;
    if (box.clickedButton() == move)
        emit editMade([crs = *known](const Project& p) { return moveToSystem(p, crs); });
    else if (box.clickedButton() == rename)
        emit editMade([crs = *known](const Project& p) { return setSystem(p, crs); });
    else if (auto* field = findChild<QLineEdit*>("systemEdit"))
        field->setText(QString::fromStdString(before)); // what was typed is withdrawn
}

void SiteShelf::cardFrame() {
    const auto frame = *products()->frame;
    const auto box = [&](const char* name, double value, double low, int decimals, const QString& tip) {
        auto* b = new NumberBox;
        b->setObjectName(name);
        b->setRange(low, 1e8);
        b->setDecimals(decimals);
        b->setButtonSymbols(QAbstractSpinBox::NoButtons);
        b->setSuffix(tr(" m"));
        b->setValue(value);
        b->setKeyboardTracking(false);
        b->setToolTip(tip);
        return b;
    };
    auto* cell =
        box("siteCell", frame.cell, 0.5, 1, tr("Smaller cells show more and take longer; the holes are honoured either way"));
    connect(cell, &QDoubleSpinBox::valueChanged, this,
            [this](double metres) { emit editMade([metres](const Project& p) { return setCell(p, metres); }); });
    cardWidget(tr("Cell"), cell);
    if (products()->secondsPerCell > 0) {
        const double seconds = products()->secondsPerCell * double(frame.cells());
        cardFact(tr("Takes about"), seconds < 1 ? tr("%1 s for all bases").arg(seconds, 0, 'f', 2)
                                                : tr("%1 s for all bases").arg(seconds, 0, 'f', 0));
    }
    const auto units = products()->project.sequence->units.size();
    cardFact(tr("Memory"), tr("about %1").arg(QLocale().formattedDataSize(qint64(expectedBytes(frame, units)), 0)));
    const auto side = [&](const QString& label, const char* low, double Frame::*from, const char* high, double Frame::*to) {
        auto* pair = new QWidget;
        auto* line = new QHBoxLayout(pair);
        line->setContentsMargins(0, 0, 0, 0);
        for (const auto& [name, member] : {std::pair{low, from}, {high, to}}) {
            auto* b = box(name, frame.*member, -1e8, 1, tr("Edge of the site's extent, metres"));
            b->setSuffix({}); // there is no room for it beside a northing
            line->addWidget(b);
            connect(b, &QDoubleSpinBox::valueChanged, this,
                    [this, m = member](double v) { emit editMade([m, v](const Project& p) { return setFrameEdge(p, m, v); }); });
        }
        cardWidget(label, pair);
    };
    side(tr("West, east, m"), "siteWest", &Frame::xmin, "siteEast", &Frame::xmax);
    side(tr("South, north, m"), "siteSouth", &Frame::ymin, "siteNorth", &Frame::ymax);
    auto* from = new QPushButton(tr("Extent from…"));
    from->setObjectName("siteExtentFrom");
    auto* menu = new QMenu(from);
    menu->addAction(tr("the holes and the ground"), this,
                    [this] { emit editMade([](const Project& now) { return setFrame(now, std::nullopt); }); });
    menu->addAction(tr("what the plan shows"), this, [this] { emit actionAsked(ExtentFromPlan{}); });
    const auto around = [this, menu, cells = frame.cell](const QString& name, const Polygon2& ring) {
        menu->addAction(name, this, [this, ring, cells] {
            Box2 b;
            for (const auto& p : ring) b.include(p);
            emit editMade(
                [frame = Frame{b.xmin, b.ymin, b.xmax, b.ymax, cells}](const Project& p) { return setFrame(p, frame); });
        });
    };
    if (!products()->project.site->limit.empty()) around(tr("the site limit"), products()->project.site->limit);
    for (const auto& o : products()->project.ground->outlines) around(QString::fromStdString(o.name), o.ring);
    from->setMenu(menu);
    cardWidget(QString(), from);
    auto* drawn = new QCheckBox(tr("draw the grid on the plan"));
    drawn->setObjectName("drawGrid");
    drawn->setChecked(selection()->planLook().grid);
    connect(drawn, &QCheckBox::toggled, this, [this](bool on) {
        auto look = selection()->planLook();
        look.grid = on;
        selection()->setPlanLook(look);
    });
    cardWide(drawn);
}

} // namespace fox::app
