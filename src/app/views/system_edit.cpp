#include "views/system_edit.h"

#include "base/errors.h"
#include "formats/system_list.h"

#include <QAbstractItemView>
#include <QCompleter>
#include <QStandardItemModel>

namespace fox::app {

SystemEdit::SystemEdit(QWidget* parent) : QLineEdit(parent), m_found(new QStandardItemModel(this)) {
    m_tip = tr("A coordinate system: type its EPSG number, or part of its name or of where it is used, and choose");
    setToolTip(m_tip);
    auto* completer = new QCompleter(m_found, this);
    completer->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
    completer->setCompletionRole(Qt::UserRole); // the code alone goes into the field
    completer->setMaxVisibleItems(12);
    completer->popup()->setObjectName("systemsFound");
    completer->popup()->setMinimumWidth(420);
    setCompleter(completer);
    connect(this, &QLineEdit::textEdited, this, &SystemEdit::search);
    connect(completer, qOverload<const QString&>(&QCompleter::activated), this, [this](const QString& code) {
        setSystem(code);
        setModified(true);
        emit systemChosen(code);
    });
}

void SystemEdit::setSystem(const QString& code) {
    setText(code);
    const auto words = systemWords(code.toStdString());
    setToolTip(words.isEmpty() ? m_tip : words);
}

void SystemEdit::search(const QString& typed) {
    m_found->clear();
    for (const auto& s : systemsLike(typed.toStdString())) {
        auto* item = new QStandardItem(
            QString("%1   %2   %3")
                .arg(QString::fromStdString(s.code), QString::fromStdString(s.name), QString::fromStdString(s.area)));
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
