#include "stages/shelf.h"

#include "style/theme.h"
#include "views/number_box.h"

#include <QAbstractSpinBox>
#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

namespace fox::app {

namespace {

void clear(QLayout* layout) {
    while (auto* item = layout->takeAt(0)) {
        if (auto* w = item->widget()) {
            // a row may be what is being pressed: it goes later, and nobody finds it by name until then
            auto parts = w->findChildren<QWidget*>();
            parts << w;
            for (auto* part : std::as_const(parts)) part->setObjectName({}), part->setAccessibleName({});
            w->hide();
            w->deleteLater();
        }
        if (item->layout()) clear(item->layout());
        delete item;
    }
}

QLabel* label(const QString& text, QWidget* parent, bool muted = false) {
    auto* l = new QLabel(text, parent);
    l->setProperty("muted", muted);
    l->setTextInteractionFlags(Qt::NoTextInteraction);
    return l;
}

/// Where the user is in a panel: how far it is scrolled, which field has the keyboard, and what was typed into it and is
/// not an edit yet. Taken before the panel is filled anew, put back afterwards.
class TypingPlace {
public:
    TypingPlace(QWidget* panel, QScrollArea* scroll)
        : m_panel(panel), m_scroll(scroll), m_scrolled(scroll->verticalScrollBar()->value()) {
        auto* focused = panel->focusWidget();
        if (!focused || !focused->hasFocus()) return;
        if (auto* box = qobject_cast<QAbstractSpinBox*>(focused->parentWidget())) focused = box;
        m_key = keyOf(focused);
        m_at = int(sameKey(focused).indexOf(focused));
        if (const auto* edit = editOf(focused); edit && edit->isModified())
            m_typed = edit->text(), m_cursor = edit->cursorPosition();
    }

    void restore() const {
        // the new rows have their heights only once they are shown and the layout has been through them
        for (auto* w : m_scroll->widget()->findChildren<QWidget*>(Qt::FindDirectChildrenOnly))
            if (!w->testAttribute(Qt::WA_WState_ExplicitShowHide)) w->show();
        m_panel->layout()->activate(); // the card may have come or gone
        m_scroll->widget()->layout()->activate();
        QEvent request(QEvent::LayoutRequest); // else the area would take the new height after this
        QCoreApplication::sendEvent(m_scroll, &request);
        m_scroll->verticalScrollBar()->setValue(m_scrolled);
        if (m_key.isEmpty()) return;
        const auto now = m_panel->findChildren<QWidget*>();
        int at = 0;
        for (auto* w : now) {
            if (keyOf(w) != m_key || at++ != m_at) continue;
            for (auto* shown = w; shown != m_panel; shown = shown->parentWidget()) shown->show(); // what is hidden takes no focus
            w->setFocus();
            auto* edit = editOf(w);
            if (!edit || m_typed.isNull()) return;
            edit->setText(m_typed);
            edit->setModified(true);
            edit->setCursorPosition(m_cursor);
            return;
        }
    }

private:
    static QString keyOf(const QWidget* w) {
        return w->objectName().isEmpty() || w->objectName().startsWith("qt_") ? w->accessibleName() : w->objectName();
    }
    QWidgetList sameKey(const QWidget* like) const {
        QWidgetList out;
        for (auto* w : m_panel->findChildren<QWidget*>())
            if (keyOf(w) == keyOf(like)) out << w;
        return out;
    }
    static QLineEdit* editOf(QWidget* w) {
        if (auto* edit = qobject_cast<QLineEdit*>(w)) return edit;
        return qobject_cast<QAbstractSpinBox*>(w) ? w->findChild<QLineEdit*>() : nullptr;
    }

    QWidget* m_panel;
    QScrollArea* m_scroll;
    int m_scrolled;
    QString m_key, m_typed;
    int m_at = 0, m_cursor = 0;
};

} // namespace

Shelf::Shelf(const QString& title, Selection* selection, QWidget* parent) : QFrame(parent), m_selection(selection) {
    setObjectName("shelf");
    auto* head = new QFrame(this);
    head->setObjectName("shelfHead");
    head->setMinimumHeight(46);
    auto* headRow = new QHBoxLayout(head);
    headRow->setContentsMargins(14, 0, 14, 0);
    auto* name = label(title, head);
    name->setFont(bodyFont(16, true));
    name->setStyleSheet("font-size: 16px; font-weight: 600;");
    m_main = new QPushButton(head);
    m_main->hide();
    headRow->addWidget(name, 1);
    headRow->addWidget(m_main);

    auto* body = new QWidget;
    body->setObjectName("shelfBody");
    m_body = new QVBoxLayout(body);
    m_body->setContentsMargins(14, 10, 14, 10);
    m_body->setSpacing(1);
    auto* scroll = m_scroll = new QScrollArea(this);
    scroll->setWidget(body);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);

    m_card = new QFrame(this);
    m_card->setObjectName("card");
    m_cardGrid = new QGridLayout(m_card);
    m_cardGrid->setContentsMargins(14, 10, 14, 12);
    m_cardGrid->setHorizontalSpacing(10);
    m_cardGrid->setVerticalSpacing(4);
    m_cardGrid->setColumnMinimumWidth(0, 92);
    m_cardGrid->setColumnStretch(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(head);
    layout->addWidget(scroll, 1);
    layout->addWidget(m_card);
    connect(selection, &Selection::holeChanged, this, &Shelf::refill);
    connect(selection, &Selection::unitChanged, this, &Shelf::refill);
    connect(selection, &Selection::sectionChanged, this, &Shelf::refill);
    connect(selection, &Selection::trialChanged, this, &Shelf::refill);
}

void Shelf::setProducts(std::shared_ptr<const ProductSet> products) {
    const auto before = std::exchange(m_products, std::move(products));
    if (before && m_products && m_products->sameFor(wanted(), *before)) return;
    refill();
}

void Shelf::refill() {
    if (!m_products || m_filling) return;
    m_filling = true;
    const TypingPlace place(this, m_scroll);
    clear(m_body);
    clear(m_cardGrid);
    fillBody();
    m_body->addStretch(1);
    fillCard();
    m_card->setVisible(m_cardGrid->count() > 0);
    place.restore();
    m_filling = false;
}

QPushButton* Shelf::mainButton(const QString& text, const QString& tip) {
    m_main->setText(text);
    m_main->setToolTip(tip);
    m_main->show();
    return m_main;
}

void Shelf::heading(const QString& text) {
    auto* l = label(text, this);
    l->setProperty("heading", true);
    l->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    l->setContentsMargins(0, m_body->count() ? 10 : 0, 0, 2);
    m_body->addWidget(l);
}

void Shelf::words(const QString& text, const QColor& c) {
    auto* l = label(text, this, !c.isValid());
    l->setWordWrap(true);
    l->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    if (c.isValid()) l->setStyleSheet(QString("color: %1;").arg(c.name()));
    m_body->addWidget(l);
}

void Shelf::row(const QString& left, const QString& right, const std::function<void()>& go, bool chosen) {
    auto* r = new ShelfRow(this);
    r->go = go;
    r->chosen = chosen;
    r->setFocusPolicy(go ? Qt::TabFocus : Qt::NoFocus);
    r->setAccessibleName(left);
    auto* line = new QHBoxLayout(r);
    line->setContentsMargins(4, 2, 4, 2);
    auto* l = label(left, r);
    l->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    l->setToolTip(left);
    line->addWidget(l, 1);
    line->addWidget(label(right, r, true));
    m_body->addWidget(r);
}

void Shelf::offer(const QString& text, const std::function<void()>& go) { offers({{text, text, go}}); }

void Shelf::offers(const std::vector<Offer>& all) {
    auto* one = new QWidget(this);
    auto* beside = new QHBoxLayout(one);
    beside->setContentsMargins(0, 0, 0, 0);
    beside->setSpacing(6);
    beside->addStretch(1);
    for (const auto& o : all) {
        auto* r = new ShelfRow(one);
        r->go = o.go;
        r->setFocusPolicy(Qt::TabFocus);
        r->setAccessibleName(o.name);
        if (o.name != o.words) r->setToolTip(o.name);
        auto* line = new QHBoxLayout(r);
        line->setContentsMargins(4, 2, 4, 2);
        auto* l = label(o.words, r);
        l->setStyleSheet(QString("color: %1;").arg(colour::fox.name()));
        line->addWidget(l);
        beside->addWidget(r);
    }
    m_body->addWidget(one);
}

void Shelf::finding(const Finding& f) {
    words(QString::fromStdString((f.hole.empty() ? "" : f.hole + ": ") + f.message),
          f.severity == Severity::Error ? colour::red : colour::amberText);
    const auto offerRemedy = [&](const Remedy& remedy) {
        offer(QString::fromStdString(remedy.label), [this, remedy] {
            if (const auto* place = std::get_if<PlaceOnPlan>(&remedy.action))
                emit actionAsked(PlaceHole{QString::fromStdString(place->hole)});
            else
                emit editMade([remedy](const Project& p) { return apply(p, remedy); });
        });
    };
    if (f.remedy) offerRemedy(*f.remedy);
    for (const auto& other : f.others) offerRemedy(other);
}

void Shelf::unitRow(const Unit& unit, const QString& right) {
    const auto code = QString::fromStdString(unit.code);
    auto* r = new ShelfRow(this);
    r->setObjectName("unit_" + code);
    r->chosen = m_selection->unit() == code;
    r->go = [this, code] { m_selection->setUnit(m_selection->unit() == code ? QString() : code); };
    r->setFocusPolicy(Qt::TabFocus);
    r->setToolTip(tr("Show this unit alone on sections and in 3D; again to show all"));
    r->setAccessibleName(QString::fromStdString(unit.name));
    auto* line = new QHBoxLayout(r);
    line->setContentsMargins(4, 3, 2, 3);
    line->setSpacing(4);
    auto* picture = new QLabel(r);
    picture->setPixmap(swatch(unit));
    line->addWidget(picture);
    auto* c = label(code, r, true);
    c->setFixedWidth(28);
    line->addWidget(c);
    auto* name = label(QString::fromStdString(unit.name), r);
    name->setMinimumWidth(40); // a long name gives way, the figures beside it do not
    line->addWidget(name, 1);
    line->addWidget(label(right, r, true));
    auto* shown = new QCheckBox(r);
    shown->setObjectName("show_" + code);
    shown->setChecked(!m_selection->unitHidden(code));
    shown->setToolTip(tr("Show this unit in 3D"));
    shown->setAccessibleName(tr("Show %1 in 3D").arg(QString::fromStdString(unit.name)));
    connect(shown, &QCheckBox::toggled, m_selection, [this, code](bool on) { m_selection->setUnitHidden(code, !on); });
    line->addWidget(shown);
    m_body->addWidget(r);
}

void Shelf::partSwitch(const std::vector<std::pair<const char*, QString>>& parts, const char* chosen) {
    auto* all = new QWidget(this);
    auto* line = new QHBoxLayout(all);
    line->setContentsMargins(0, 0, 0, 4);
    line->setSpacing(0);
    for (const auto& [stage, words] : parts) {
        auto* button = new QPushButton(words, all);
        button->setObjectName(QString("part_") + stage);
        button->setCheckable(true);
        button->setChecked(std::string_view(stage) == chosen);
        button->setProperty("part", true);
        connect(button, &QPushButton::clicked, this, [this, button, stage = stage, chosen] {
            button->setChecked(std::string_view(stage) == chosen); // the one that is shown stays pressed
            if (std::string_view(stage) != chosen) emit actionAsked(ShowPart{stage});
        });
        line->addWidget(button, 1);
    }
    wide(all);
}

void Shelf::modelPartSwitch(const char* chosen) {
    partSwitch({{"model", tr("Units")}, {"layers", tr("Layers and meshes")}, {"blocks", tr("Blocks")}}, chosen);
}

QComboBox* Shelf::narrowBox() {
    auto* box = new QComboBox;
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(12);
    return box;
}

void Shelf::numberRow(const QString& text, const char* objectName, double value, double least, double most, int decimals,
                      const QString& suffix, const std::function<void(double)>& changed) {
    auto* both = new QWidget;
    auto* line = new QHBoxLayout(both);
    line->setContentsMargins(4, 2, 0, 2);
    auto* box = makeNumberBox(value, least, most, decimals, suffix, changed);
    box->setObjectName(objectName);
    box->setAccessibleName(text);
    box->setFixedWidth(104);
    line->addWidget(new QLabel(text), 1);
    line->addWidget(box);
    wide(both);
}

void Shelf::choiceRow(const QString& text, const char* objectName, const QStringList& choices, int now,
                      const std::function<void(int)>& changed) {
    auto* both = new QWidget;
    auto* line = new QHBoxLayout(both);
    line->setContentsMargins(4, 2, 0, 2);
    auto* box = narrowBox();
    box->setObjectName(objectName);
    box->setAccessibleName(text);
    box->addItems(choices);
    box->setCurrentIndex(now);
    box->setFixedWidth(150);
    connect(box, &QComboBox::activated, this, changed);
    line->addWidget(new QLabel(text), 1);
    line->addWidget(box);
    wide(both);
}

void Shelf::wide(QWidget* w) { m_body->addWidget(w); }

void Shelf::cardTitle(const QString& strong, const QString& rest) {
    auto* l = label(QString("<b>%1</b> <span style='color:%2'>%3</span>")
                        .arg(strong.toHtmlEscaped(), colour::muted.name(), rest.toHtmlEscaped()),
                    m_card);
    l->setWordWrap(true);
    m_cardGrid->addWidget(l, m_cardGrid->rowCount(), 0, 1, 2);
}

void Shelf::cardFact(const QString& name, const QString& value, const QString& remark, const QColor& c) {
    const int at = m_cardGrid->rowCount();
    m_cardGrid->addWidget(label(name, m_card, true), at, 0, Qt::AlignTop);
    auto* v =
        label(remark.isEmpty()
                  ? value.toHtmlEscaped()
                  : QString("%1 <span style='color:%2'>%3</span>").arg(value.toHtmlEscaped(), c.name(), remark.toHtmlEscaped()),
              m_card);
    v->setWordWrap(true);
    v->setTextInteractionFlags(Qt::TextSelectableByMouse);
    m_cardGrid->addWidget(v, at, 1);
}

void Shelf::cardWidget(const QString& name, QWidget* w) {
    const int at = m_cardGrid->rowCount();
    m_cardGrid->addWidget(label(name, m_card, true), at, 0);
    w->setAccessibleName(name);
    m_cardGrid->addWidget(w, at, 1);
}

void Shelf::cardWide(QWidget* w) { m_cardGrid->addWidget(w, m_cardGrid->rowCount(), 0, 1, 2); }

ShelfRow::ShelfRow(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed); // too many rows scroll, they do not shrink
}

void ShelfRow::mousePressEvent(QMouseEvent*) {
    if (const auto act = go) act(); // a copy: the row may be gone after it
}

void ShelfRow::keyPressEvent(QKeyEvent* e) {
    if (go && (e->key() == Qt::Key_Space || e->key() == Qt::Key_Return)) {
        const auto act = go;
        act();
    } else {
        QWidget::keyPressEvent(e);
    }
}

void ShelfRow::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (chosen)
        painter.fillRect(rect(), colour::chosen);
    else if (go && underMouse())
        painter.fillRect(rect(), colour::desk);
    if (hasFocus()) {
        painter.setPen(QPen(colour::fox, 1, Qt::DotLine));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

} // namespace fox::app
