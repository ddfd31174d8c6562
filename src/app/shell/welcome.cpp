#include "shell/welcome.h"

#include "style/theme.h"

#include <QEvent>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

Welcome::Welcome(QWidget* over) : QFrame(over), m_recent(new QVBoxLayout) {
    setObjectName("welcome");
    setAccessibleName(tr("Start"));
    auto* title = new QLabel(tr("Start a ground model"), this);
    title->setFont(bodyFont(18, true));
    auto* words =
        new QLabel(tr("Drop files on the window: boreholes as AGS, logs as LAS, tables, survey points. What was read is "
                      "shown before anything enters the project."),
                   this);
    words->setWordWrap(true);
    words->setProperty("muted", true);
    const auto button = [this](const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        return b;
    };
    auto* files = button("welcomeFiles", tr("Start with files…"), tr("Import holes or ground data (Ctrl+I)"));
    files->setProperty("main", true);
    auto* demo = button("welcomeDemo", tr("Open the demo"), tr("The Quernbeck flood bypass: invented, and complete"));
    auto* open = button("welcomeOpen", tr("Open a project…"), tr("Open a project file (Ctrl+O)"));
    auto* close = button("welcomeClose", tr("Close"), tr("Start with an empty project"));
    close->setProperty("quiet", true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(28, 24, 28, 16);
    layout->setSpacing(9);
    layout->addWidget(title);
    layout->addWidget(words);
    layout->addSpacing(4);
    for (auto* b : {files, demo, open}) layout->addWidget(b);
    layout->addLayout(m_recent);
    layout->addWidget(close, 0, Qt::AlignRight);
    connect(files, &QPushButton::clicked, this, &Welcome::filesAsked);
    connect(demo, &QPushButton::clicked, this, &Welcome::demoAsked);
    connect(open, &QPushButton::clicked, this, &Welcome::projectAsked);
    connect(close, &QPushButton::clicked, this, [this] {
        m_closed = true;
        hide();
    });
    over->installEventFilter(this);
    hide();
}

void Welcome::setRecent(const QStringList& paths) {
    while (auto* item = m_recent->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    if (paths.isEmpty()) return;
    auto* heading = new QLabel(tr("Open last"), this);
    heading->setProperty("heading", true);
    m_recent->addWidget(heading);
    constexpr qsizetype kMost = 4;
    for (const auto& path : paths.first(std::min(kMost, paths.size()))) {
        auto* b = new QPushButton(QFileInfo(path).completeBaseName(), this);
        b->setProperty("quiet", true);
        b->setToolTip(path);
        b->setStyleSheet("text-align: left;");
        connect(b, &QPushButton::clicked, this, [this, path] { emit recentAsked(path); });
        m_recent->addWidget(b);
    }
}

void Welcome::setWanted(bool wanted) {
    const bool shows = wanted && !m_closed;
    if (shows) place();
    setVisible(shows);
}

void Welcome::openAgain() { m_closed = false; }

bool Welcome::eventFilter(QObject* watched, QEvent* e) {
    if (watched == parent() && e->type() == QEvent::Resize) place();
    return QFrame::eventFilter(watched, e);
}

void Welcome::place() {
    constexpr int kWide = 400;
    const int wide = std::min(int(std::lround(kWide * textScale())), parentWidget()->width() - 40);
    resize(wide, std::min(heightForWidth(wide) > 0 ? heightForWidth(wide) : sizeHint().height(), parentWidget()->height() - 20));
    move((parentWidget()->width() - width()) / 2, (parentWidget()->height() - height()) / 2);
    raise();
}

} // namespace fox::app
