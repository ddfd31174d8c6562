// The excavations in the side panel of the part "Blocks".
#include "model/section.h"
#include "project/block_edits.h"
#include "project/named_surface_edits.h"
#include "stages/blocks_shelf.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/block_words.h"
#include "views/number_box.h"
#include "views/scene_blocks.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>

namespace fox::app {

void BlocksShelf::fillDigs() {
    heading(tr("Excavations"));
    const auto& specs = *products()->project.excavations;
    const auto* chosen = chosenDig();
    for (std::size_t i = 0; i < specs.size(); ++i) {
        const auto* made = i < products()->excavations.size() ? products()->excavations[i].get() : nullptr;
        row(
            qt(specs[i].name),
            !made       ? tr("being made")
            : made->dig ? volume(made->dig->excavated)
                        : tr("can't be made"),
            [this, name = specs[i].name] { changeLook([name](BlockLook& l) { l.excavation = name; }); },
            chosen && chosen->spec.name == specs[i].name);
    }
    if (specs.empty()) words(tr("An excavation frees what is wanted, with slopes that stand, and says what that moves."));
    offer(tr("Add an excavation…"), [this] { chooseWanted(); });
}

void BlocksShelf::chooseWanted() {
    auto* menu = new QMenu(this);
    menu->setObjectName("wantedMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto& p = products()->project;
    auto* units = menu->addMenu(tr("All of a unit"));
    for (std::size_t u = 0; u + 1 < p.sequence->units.size(); ++u) {
        const auto& unit = p.sequence->units[u];
        units->addAction(qt(unit.name), this, [this, unit] {
            ExcavationSpec spec;
            spec.name = unit.name, spec.units = {unit.code};
            addDig(spec);
        });
    }
    if (const auto* b = chosenBlocks(); b && b->blocks) {
        const auto& look = selection()->blockLook();
        const auto range = blockColours(*b->blocks);
        const bool above = look.side != BlockLook::Side::Below; // what lies between two limits can't be dug for alone
        const double limit = look.limit.value_or((range.low + range.high) / 2);
        menu->addAction(
            (above ? tr("Blocks of %1 above %2") : tr("Blocks of %1 below %2")).arg(qt(b->spec.name)).arg(limit, 0, 'g', 4), this,
            [this, model = b->spec.name, limit, above] {
                ExcavationSpec spec;
                spec.name = model, spec.wanted = ExcavationSpec::Wanted::Blocks;
                spec.blocks = model, spec.limit = limit, spec.above = above;
                spec.cell = chosenBlocks()->spec.dx; // as fine as what is wanted
                addDig(spec);
            });
    }
    const auto& outlines = p.ground->outlines;
    auto* surfaces = menu->addMenu(tr("Down to a surface"));
    const auto downTo = [this](const std::string& name, const std::string& surface) {
        ExcavationSpec spec;
        spec.name = name, spec.wanted = ExcavationSpec::Wanted::Surface, spec.surface = surface;
        addDig(spec);
    };
    for (const auto& s : *p.namedSurfaces) surfaces->addAction(qt(s.name), this, [downTo, name = s.name] { downTo(name, name); });
    surfaces->addAction(tr("A grid from a file…"), this, [this, downTo] {
        const auto file = QFileDialog::getOpenFileName(this, tr("Design surface"), {},
                                                       tr("Grids (*.tif *.tiff *.asc *.xyz *.gpkg *.nc);;All files (*)"));
        if (!file.isEmpty()) downTo(QFileInfo(file).completeBaseName().toStdString(), file.toStdString());
    });
    if (const auto* section = selection()->sectionOf(p))
        menu->addAction(tr("A cutting along section %1…").arg(qt(section->name)), this,
                        [this, line = *section] { askCutting(line.name, line.line); });
    auto* floors = menu->addMenu(tr("A floor inside an outline"));
    for (const auto& o : outlines)
        floors->addAction(qt(o.name), this, [this, o] {
            double lowest = kNoValue;
            for (const auto at : o.ring)
                if (const auto z = products()->terrain->levelAt(at)) lowest = std::fmin(lowest, *z);
            bool ok = false;
            const double level =
                QInputDialog::getDouble(this, tr("A floor inside %1").arg(qt(o.name)), tr("Level of the floor, m"),
                                        std::isnan(lowest) ? 0 : lowest - 3, -10000, 10000, 2, &ok);
            if (!ok) return;
            ExcavationSpec spec;
            spec.name = o.name, spec.wanted = ExcavationSpec::Wanted::Floor;
            spec.ring = o.ring, spec.level = level;
            Box2 box;
            for (const auto at : o.ring) box.include(at);
            constexpr double kAcross = 40; // cells over the shorter side
            spec.cell = std::max(0.5, std::round(std::min(box.width(), box.height()) / kAcross * 2) / 2);
            addDig(spec);
        });
    if (outlines.empty()) floors->addAction(tr("Draw an outline on the plan first"))->setEnabled(false);
    menu->popup(QCursor::pos());
}

/// A formation of even fall from one end of a line to the other.
void BlocksShelf::askCutting(const std::string& name, const Polyline2& line) {
    const auto level = [&](Point2 at) { return products()->terrain->levelAt(at).value_or(0); };
    bool ok = false;
    const auto typed = QInputDialog::getText(
        this, tr("A cutting along section %1").arg(qt(name)),
        tr("Level of the formation at the beginning and at the end, and its width, m, apart by blanks:"), QLineEdit::Normal,
        QString("%1 %2 10").arg(level(line.front()) - 3, 0, 'f', 2).arg(level(line.back()) - 3, 0, 'f', 2), &ok);
    if (!ok) return;
    const auto parts = typed.split(' ', Qt::SkipEmptyParts);
    const auto from = typedNumber(parts.value(0)), to = typedNumber(parts.value(1)), width = typedNumber(parts.value(2));
    if (!from || !to || !width || !(*width > 0))
        return emit failed(tr("A cutting needs two levels and a width over 0, such as 12.5 11 10."));
    ExcavationSpec spec;
    spec.name = "Cutting " + name, spec.wanted = ExcavationSpec::Wanted::Line, spec.lineWidth = *width;
    const double length = lengthOf(line);
    double at = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (i > 0) at += distance(line[i - 1], line[i]);
        spec.line.push_back({line[i].x, line[i].y, *from + (*to - *from) * (length > 0 ? at / length : 0)});
    }
    spec.cell = std::max(0.5, std::round(*width / 5 * 2) / 2);
    addDig(spec);
}

void BlocksShelf::addDig(ExcavationSpec spec) {
    constexpr double kUsualSlope = 35; // degrees; a start, to be set by unit
    spec.slopes[""] = kUsualSlope;
    spec.name = freeName(*products()->project.excavations, spec.name.empty() ? "Excavation" : spec.name);
    emit editMade([spec](const Project& p) { return addExcavation(p, spec); });
    changeLook([&](BlockLook& l) { l.excavation = spec.name, l.pit = true; });
}

void BlocksShelf::fillDig(const ExcavationProduct& made) {
    const auto& s = made.spec;
    const auto name = s.name;
    heading(qt(name));
    row(tr("Wanted"), wantedInWords(s));
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    if (made.dig) fillReport(made);
    if (s.wanted == ExcavationSpec::Wanted::Floor)
        numberRow(tr("Level of the floor"), "digLevel", s.level, -1e4, 1e4, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name, [v](ExcavationSpec& e) { e.level = v; }, "level of the floor");
        });
    if (s.wanted == ExcavationSpec::Wanted::Line)
        numberRow(tr("Width of the formation"), "digWidth", s.lineWidth, 0.01, 1000, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name, [v](ExcavationSpec& e) { e.lineWidth = v; }, "width of the formation");
        });
    fillSlopes(s);
    fillSectors(s);
    fillBounds(s);
    fillWorth(s);
    offers({{tr("Rename…"), tr("Rename %1").arg(qt(name)),
             [this, name] {
                 const auto wanted = askName(name);
                 if (wanted.empty()) return;
                 emit editMade([name, wanted](const Project& p) { return renameExcavation(p, name, wanted); });
                 changeLook([&](BlockLook& l) { l.excavation = wanted; });
             }},
            {tr("Copy"), tr("Another case like %1").arg(qt(name)),
             [this, copy = s]() mutable {
                 copy.name = freeName(*products()->project.excavations, copy.name);
                 emit editMade([copy](const Project& p) { return addExcavation(p, copy); });
                 changeLook([&](BlockLook& l) { l.excavation = copy.name; });
             }},
            {tr("Remove"), tr("Remove %1").arg(qt(name)), [this, name] {
                 changeLook([](BlockLook& l) { l.excavation.clear(); });
                 emit editMade([name](const Project& p) { return removeExcavation(p, name); });
             }}});
}

void BlocksShelf::fillReport(const ExcavationProduct& made) {
    const auto& d = *made.dig;
    if (made.spec.wanted == ExcavationSpec::Wanted::Blocks)
        for (const auto& b : products()->blocks)
            if (b->outOfDate && b->spec.name == made.spec.blocks)
                words(tr("The blocks of %1 are out of date, and so is what is dug for them.").arg(qt(b->spec.name)),
                      colour::amberText);
    row(tr("Excavated"), volume(d.excavated));
    row(tr("Wanted"), volume(d.wanted));
    row(tr("Waste"), d.wanted > 0 ? tr("%1 (%2 of what is wanted)").arg(volume(d.waste())).arg(d.waste() / d.wanted, 0, 'f', 2)
                                  : volume(d.waste()));
    row(tr("Mass"), tonnes(d.mass));
    if (d.wantedMass) row(tr("Mass of what is wanted"), tonnes(d.wantedMass));
    row(tr("Area"), tr("%1 m²").arg(d.area, 0, 'f', 0));
    row(tr("Greatest depth"), metres(d.deepest, 1));
    if (d.profit) row(tr("Profit"), QString::number(*d.profit, 'f', 0));
    for (const auto& [u, v] : d.byUnit) unitRow(products()->project.sequence->units[u], volume(v));
    if (d.belowWater) row(tr("Below the water"), volume(*d.belowWater));
    if (d.limitLength > 0) row(tr("Cut off at the limit"), tr("%1 m of its outline").arg(d.limitLength, 0, 'f', 0));
    fillRange(made);
    if (d.reachesEdge) words(tr("It is cut off by the edge of the extent or of the ground."), colour::amberText);
    offer(tr("Keep the dug surface as a named surface"), [this, name = made.spec.name, dug = d.dug] {
        NamedSurface surface;
        surface.name = name + ", dug", surface.from = NamedSurface::From::Grid, surface.source = name;
        surface.grid = std::make_shared<const Grid>(dug);
        emit editMade([surface](const Project& p) { return addNamedSurface(p, surface); });
    });
    offer(tr("Show it on the plan"), [this, dug = made.dig] {
        Box2 box;
        const auto& f = dug->depth.frame;
        for (int r = 0; r < f.rows(); ++r)
            for (int c = 0; c < f.columns(); ++c)
                if (dug->depth.at(c, r) > 0) box.include(f.centre(c, r));
        if (!box.empty()) emit actionAsked(ShowOnPlan{box});
    });
    offer(selection()->blockLook().pit ? tr("Hide it in the views") : tr("Show it in the views"),
          [this] { changeLook([](BlockLook& l) { l.pit = !l.pit; }); });
}

void BlocksShelf::fillSlopes(const ExcavationSpec& s) {
    const auto name = s.name;
    words(tr("Slopes, degrees from the horizontal"));
    const auto slope = [&](const QString& text, const std::string& code) {
        const auto at = s.slopes.find(code);
        const auto other = s.slopes.find("");
        const double now = at != s.slopes.end() ? at->second : other != s.slopes.end() ? other->second : 0;
        const auto object = QByteArray("slope_") + code.c_str();
        numberRow(text, object.constData(), now, 0, 90, 1, tr("°"), [this, name, code](double v) {
            if (v <= 0) return refill();
            changeDig(
                name, [code, v](ExcavationSpec& e) { e.slopes[code] = v; }, "slope");
        });
    };
    slope(tr("Units that are not named"), "");
    for (const auto& u : products()->project.sequence->units)
        if (s.slopes.contains(u.code)) slope(qt(u.name), u.code);
    offer(tr("A slope for a unit…"), [this, name, given = s.slopes] {
        auto* menu = new QMenu(this);
        menu->setObjectName("slopeMenu");
        menu->setAttribute(Qt::WA_DeleteOnClose);
        for (const auto& u : products()->project.sequence->units)
            if (!given.contains(u.code))
                menu->addAction(qt(u.name), this, [this, name, code = u.code] {
                    changeDig(
                        name, [code](ExcavationSpec& e) { e.slopes[code] = e.slopes.contains("") ? e.slopes.at("") : 35; },
                        "slope of " + code);
                });
        menu->popup(QCursor::pos());
    });
    numberRow(tr("Height of benches (0: none)"), "benchHeight", s.bench ? s.bench->height : 0, 0, 1000, 2, tr(" m"),
              [this, name](double v) {
                  changeDig(
                      name,
                      [v](ExcavationSpec& e) {
                          if (v > 0)
                              e.bench = ExcavationSpec::Bench{v, e.bench ? e.bench->berm : 2};
                          else
                              e.bench.reset();
                      },
                      "benches");
              });
    if (s.bench)
        numberRow(tr("Width of berms"), "benchBerm", s.bench->berm, 0, 1000, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name,
                [v](ExcavationSpec& e) {
                    if (e.bench) e.bench->berm = v;
                },
                "berms");
        });
    numberRow(tr("Width of cells (0: the site's)"), "digCell", s.cell, 0, 1000, 2, tr(" m"), [this, name](double v) {
        changeDig(
            name, [v](ExcavationSpec& e) { e.cell = v; }, "cells");
    });
}

/// Slopes that stand otherwise in some directions.
void BlocksShelf::fillSectors(const ExcavationSpec& s) {
    const auto name = s.name;
    for (const auto& sector : s.sectors) {
        QStringList slopes;
        for (const auto& [code, degrees] : sector.slopes)
            slopes << (code.empty() ? tr("%1°").arg(degrees) : tr("%1 %2°").arg(qt(code)).arg(degrees));
        row(tr("From %1° to %2°").arg(sector.from).arg(sector.to), slopes.join(", "));
        offer(tr("Remove the sector"), [this, name, sector] {
            changeDig(
                name, [sector](ExcavationSpec& e) { std::erase(e.sectors, sector); }, "remove a sector");
        });
    }
    offer(tr("Another slope in some directions…"), [this, name] {
        bool ok = false;
        const auto typed = QInputDialog::getText(
            this, tr("Slopes in some directions"),
            tr("Directions of the way up, from and to, degrees clockwise from north, and the slope, apart by blanks:"),
            QLineEdit::Normal, "90 180 30", &ok);
        if (!ok) return;
        const auto parts = typed.split(' ', Qt::SkipEmptyParts);
        const auto from = typedNumber(parts.value(0)), to = typedNumber(parts.value(1)), slope = typedNumber(parts.value(2));
        const auto isDirection = [](const std::optional<double>& d) { return d && *d >= 0 && *d <= 360; };
        if (!isDirection(from) || !isDirection(to) || *from == *to || !slope || !(*slope > 0 && *slope <= 90))
            return emit failed(tr("Type two directions from 0 to 360 and a slope of 90 at most, such as 90 180 30."));
        changeDig(
            name,
            [=](ExcavationSpec& e) {
                e.sectors.push_back({*from, *to, {{"", *slope}}});
            },
            "slopes in a sector");
    });
}

/// Limits, the water, what is dug before.
void BlocksShelf::fillBounds(const ExcavationSpec& s) {
    const auto name = s.name;
    const auto& p = products()->project;
    numberRow(tr("Least width of the floor"), "digFloorWidth", s.floorWidth, 0, 1000, 2, tr(" m"), [this, name](double v) {
        changeDig(
            name, [v](ExcavationSpec& e) { e.floorWidth = v; }, "least width of the floor");
    });
    const bool limited = !s.limitRing.empty() || !s.limitFile.empty();
    if (limited || !p.site->limit.empty())
        offer(limited ? tr("Also outside the limit") : tr("Only inside the site limit"),
              [this, name, limited, limit = p.site->limit] {
                  changeDig(
                      name, [&](ExcavationSpec& e) { e.limitFile.clear(), e.limitRing = limited ? Polygon2{} : limit; },
                      "limit of the excavation");
              });
    QStringList waters{tr("not looked at"), tr("at a level")};
    for (const auto& w : *p.waterSurfaces) waters << qt(w.name);
    const auto at = s.waterLevel ? 1 : std::max(0, int(waters.indexOf(qt(s.water), 2)));
    choiceRow(tr("Water"), "digWater", waters, at, [this, name, waters](int i) {
        changeDig(
            name,
            [i, waters](ExcavationSpec& e) {
                e.waterLevel.reset(), e.water.clear();
                if (i == 1) e.waterLevel = e.wanted == ExcavationSpec::Wanted::Floor ? e.level : 0;
                if (i > 1) e.water = waters[i].toStdString();
            },
            "water of the excavation");
    });
    if (s.waterLevel)
        numberRow(tr("Level of the water"), "digWaterLevel", *s.waterLevel, -1e4, 1e4, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name, [v](ExcavationSpec& e) { e.waterLevel = v; }, "level of the water");
        });
    QStringList others{tr("nothing")};
    for (const auto& e : *p.excavations)
        if (e.name != name) others << qt(e.name);
    if (others.size() > 1)
        choiceRow(tr("Dug after"), "digAfter", others, std::max(0, int(others.indexOf(qt(s.after), 1))),
                  [this, name, others](int i) {
                      changeDig(
                          name, [&](ExcavationSpec& e) { e.after = i > 0 ? others[i].toStdString() : std::string(); },
                          "what is dug before");
                  });
}

/// What pays, where worth and cost are given.
void BlocksShelf::fillWorth(const ExcavationSpec& s) {
    const auto name = s.name;
    const auto set = [this, name](double ExcavationSpec::Worth::*which, double v) {
        changeDig(
            name,
            [which, v](ExcavationSpec& e) {
                auto worth = e.worth.value_or(ExcavationSpec::Worth{});
                worth.*which = v;
                e.worth = worth.value > 0 || worth.cost > 0 ? std::optional(worth) : std::nullopt;
            },
            "worth and cost");
    };
    words(tr("With worth and cost only what pays is dug; 0 and 0: all that is wanted."));
    numberRow(tr("Worth of 1 m³ wanted"), "digWorth", s.worth ? s.worth->value : 0, 0, 1e9, 2, {},
              [set](double v) { set(&ExcavationSpec::Worth::value, v); });
    numberRow(tr("Cost of 1 m³ dug"), "digCost", s.worth ? s.worth->cost : 0, 0, 1e9, 2, {},
              [set](double v) { set(&ExcavationSpec::Worth::cost, v); });
}

/// What it comes to in equally likely models, worked out when it is asked for.
void BlocksShelf::fillRange(const ExcavationProduct& made) {
    if (m_ranging.busy()) return words(tr("Equally likely models are being dug…"));
    if (m_range && m_rangeOf == made.dig) {
        const auto& r = *m_range;
        const auto words3 = [](const Range& range) { return tr("%1 to %2").arg(volume(range.p10), volume(range.p90)); };
        row(tr("Excavated, P10 to P90"), words3(r.excavated));
        row(tr("Wanted, P10 to P90"), words3(r.wanted));
        row(tr("Waste, P10 to P90"), words3(r.waste));
        if (!r.wanted.contains(made.dig->wanted))
            words(tr("What the model itself gives lies outside this range: look at the uncertainty of its bases."),
                  colour::amberText);
        return;
    }
    if (!m_rangeRefused.isEmpty() && m_rangeOf == made.dig) words(m_rangeRefused, colour::red);
    offer(tr("Range in equally likely models"), [this, dig = made.dig, spec = made.spec] {
        constexpr int kModels = 50;
        m_range.reset(), m_rangeRefused.clear();
        m_rangeOf = dig;
        m_ranging.start(
            [project = products()->project, spec](const Progress& progress) {
                ProductCache cache;
                const Making making(project, cache, progress);
                return excavationRange(excavationInputs(making, spec), {kModels, 1}, progress);
            },
            [this](const ExcavationRange& range) {
                m_range = range;
                refill();
            },
            [this](const QString& why) {
                m_rangeRefused = why;
                refill();
            });
        refill();
    });
}

/// The benches of the excavation that is looked at.
void BlocksShelf::fillCard() {
    const auto* made = chosenDig();
    if (!made || !made->dig || made->dig->benches.size() < 2) return;
    cardTitle(tr("Benches"), qt(made->spec.name));
    for (const auto& b : made->dig->benches)
        cardFact(tr("%1 to %2 m").arg(b.from, 0, 'f', 1).arg(b.to, 0, 'f', 1),
                 b.mass ? tr("%1, %2").arg(volume(b.volume), tonnes(b.mass)) : volume(b.volume));
}

} // namespace fox::app
