#include "views/system_edit.h"

#include "base/errors.h"

#include <QAbstractItemView>
#include <QCompleter>
#include <QFocusEvent>
#include <QLocale>
#include <QSettings>
#include <QStandardItemModel>

namespace fox::app {

namespace {

constexpr int kRemembered = 8; ///< systems that were chosen last

QStringList usedBefore() { return QSettings().value("systems/used").toStringList(); }

void rememberUse(const QString& code) {
    auto used = usedBefore();
    used.removeAll(code);
    used.prepend(code);
    QSettings().setValue("systems/used", QStringList(used.mid(0, kRemembered)));
}

} // namespace

SystemEdit::SystemEdit(QWidget* parent) : QLineEdit(parent), m_found(new QStandardItemModel(this)), m_work(this) {
    m_tip = tr("A coordinate system: type its EPSG number, or part of its name or of where it is used, and choose");
    setToolTip(m_tip);
    auto* completer = new QCompleter(m_found, this);
    completer->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
    completer->setCompletionRole(Qt::UserRole); // the code alone goes into the field
    completer->setMaxVisibleItems(12);
    completer->popup()->setObjectName("systemsFound");
    completer->popup()->setMinimumWidth(420);
    setCompleter(completer);
    connect(this, &QLineEdit::textEdited, this,
            [this](const QString& typed) { typed.trimmed().isEmpty() ? propose() : search(typed); });
    connect(completer, qOverload<const QString&>(&QCompleter::activated), this, [this](const QString& code) {
        setSystem(code);
        setModified(true);
        rememberUse(code);
        emit systemChosen(code);
    });
}

void SystemEdit::setSystem(const QString& code) {
    setText(code);
    const auto words = systemWords(code.toStdString());
    setToolTip(words.isEmpty() ? m_tip : words);
}

void SystemEdit::setPosition(std::optional<Point2> at, const std::string& nearSystem, Point2 near) {
    m_at = at;
    m_nearSystem = nearSystem;
    m_near = near;
}

void SystemEdit::focusInEvent(QFocusEvent* e) {
    QLineEdit::focusInEvent(e);
    if (e->reason() != Qt::PopupFocusReason && text().trimmed().isEmpty()) propose();
}

/// Systems that fit the coordinates, found beside the window.
void SystemEdit::propose() {
    if (!m_at) return;
    SystemHints hints{m_nearSystem, m_near, {}, {}};
    if (const auto territory = QLocale::system().territory(); territory != QLocale::AnyTerritory)
        hints.country = QLocale::territoryToString(territory).toStdString();
    for (const auto& code : usedBefore()) hints.codes.push_back(code.toStdString());
    m_work.start([at = *m_at, hints](const Progress& progress) { return systemsFitting(at, hints, 8, progress); },
                 [this](const std::vector<SystemInfo>& found) {
                     if (!hasFocus() || !text().trimmed().isEmpty()) return;
                     show(found, tr("fits the coordinates"));
                     if (!found.empty()) completer()->complete();
                 },
                 [](const QString&) {});
}

void SystemEdit::search(const QString& typed) { show(systemsLike(typed.toStdString()), {}); }

void SystemEdit::show(const std::vector<SystemInfo>& systems, const QString& remark) {
    m_found->clear();
    for (const auto& s : systems) {
        auto words = QString("%1   %2   %3")
                         .arg(QString::fromStdString(s.code), QString::fromStdString(s.name), QString::fromStdString(s.area));
        if (!remark.isEmpty()) words += " (" + remark + ")";
        auto* item = new QStandardItem(words);
        item->setData(QString::fromStdString(s.code), Qt::UserRole);
        item->setToolTip(systemWords(s.code));
        m_found->appendRow(item);
    }
}

QString systemWords(const std::string& code) {
    const auto system = code.empty() ? std::nullopt : systemNamed(code);
    if (!system) return {};
    const auto unit = unitOfSystem(system->code);
    return SystemEdit::tr("%1, in %2")
        .arg(QString::fromStdString(system->name), unit.isMetre() ? SystemEdit::tr("metres") : QString::fromStdString(unit.name));
}

} // namespace fox::app
