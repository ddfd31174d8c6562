#include "shell/top_bar.h"

#include "shell/find_box.h"
#include "style/theme.h"

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace fox::app {

namespace {

QPushButton* buttonFor(QAction* action, QWidget* parent) {
    auto* button = new QPushButton(parent);
    button->setObjectName(action->objectName() + "Button");
    const auto follow = [button, action] {
        button->setEnabled(action->isEnabled());
        button->setToolTip(action->toolTip());
        button->setText(action->iconText());
    };
    QObject::connect(action, &QAction::changed, button, follow);
    QObject::connect(button, &QPushButton::clicked, action, &QAction::trigger);
    follow();
    return button;
}

} // namespace

TopBar::TopBar(QAction* undo, QAction* redo, QAction* exportFiles, QAction* import, QWidget* parent)
    : QFrame(parent), m_name(new QLabel(this)), m_saved(new QLabel(this)), m_find(new FindBox(this)) {
    setObjectName("topBar");
    setMinimumHeight(40);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    m_name->setStyleSheet("font-weight: 600;");
    m_saved->setProperty("muted", true);
    auto* main = buttonFor(import, this);
    main->setProperty("main", true);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 0, 12, 0);
    row->setSpacing(10);
    row->addWidget(m_name);
    row->addWidget(m_saved);
    row->addWidget(buttonFor(undo, this));
    row->addWidget(buttonFor(redo, this));
    row->addStretch(1);
    row->addWidget(m_find);
    row->addWidget(buttonFor(exportFiles, this));
    row->addWidget(main);
}

void TopBar::setProject(const QString& name) { m_name->setText(name); }
void TopBar::setSaved(const QString& words) { m_saved->setText(words); }

} // namespace fox::app
