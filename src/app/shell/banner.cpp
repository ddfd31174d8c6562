#include "shell/banner.h"

#include "style/theme.h"

#include <QAccessible>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace fox::app {

Banner::Banner(QWidget* parent)
    : QFrame(parent),
      m_words(new QLabel(this)),
      m_again(new QPushButton(tr("Save again"), this)),
      m_saveAs(new QPushButton(tr("Save as…"), this)) {
    setObjectName("banner");
    m_words->setObjectName("bannerWords");
    m_words->setWordWrap(true);
    m_again->setObjectName("bannerSaveAgain");
    m_again->setToolTip(tr("Try once more to write the project file"));
    m_saveAs->setObjectName("bannerSaveAs");
    m_saveAs->setToolTip(tr("Write the project, with all edits, to another file and go on there"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 6, 12, 6);
    row->setSpacing(10);
    row->addWidget(m_words, 1);
    row->addWidget(m_again);
    row->addWidget(m_saveAs);
    connect(m_again, &QPushButton::clicked, this, &Banner::saveAgainAsked);
    connect(m_saveAs, &QPushButton::clicked, this, &Banner::saveAsAsked);
    setState({}, {}, {});
}

void Banner::setState(const QString& notSaved, const QString& readOnly, const QString& unnamed) {
    const bool unsaved = !notSaved.isEmpty();
    const auto& other = readOnly.isEmpty() ? unnamed : readOnly;
    setVisible(unsaved || !other.isEmpty());
    m_words->setText(
        unsaved ? tr("<b>Not saved.</b> %1 The edits are kept here until they can be written.").arg(notSaved.toHtmlEscaped())
                : other.toHtmlEscaped());
    if (isVisible() && m_words->text() != m_words->accessibleName()) { // told to screen readers when it is new
        m_words->setAccessibleName(m_words->text());
        QAccessibleEvent told(m_words, QAccessible::Alert);
        QAccessible::updateAccessibility(&told);
    }
    m_again->setVisible(unsaved);
    const bool dark = themeInForce() == Theme::Dark;
    setStyleSheet(QString("#banner { background: %1; } #bannerWords { color: %2; }")
                      .arg(unsaved ? (dark ? "#3F2320" : "#F6E3E0") : (dark ? "#38301F" : "#F7EBD3"),
                           unsaved ? colour::red.name() : colour::amberText.name()));
}

} // namespace fox::app
