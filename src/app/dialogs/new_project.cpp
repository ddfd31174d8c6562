#include "dialogs/new_project.h"

#include "base/errors.h"
#include "project/edits.h"
#include "views/system_edit.h"

#include <QCoreApplication>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>

namespace fox::app {

namespace {
QString words(const char* english) { return QCoreApplication::translate("fox::app::NewProject", english); }
} // namespace

std::optional<QString> askProjectSystem(QWidget* parent) {
    QDialog sheet(parent);
    sheet.setObjectName("newProjectSystem");
    sheet.setWindowTitle(words("New project"));
    auto* system = new SystemEdit(&sheet);
    system->setObjectName("newSystem");
    system->setPlaceholderText(words("EPSG number, name or area; empty: as the first file says"));
    system->setMinimumWidth(460);
    auto* remark = new QLabel(words("Eastings, northings and levels are in metres."), &sheet);
    remark->setProperty("muted", true);
    remark->setWordWrap(true);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, &sheet);
    auto* create = buttons->addButton(words("Create the project"), QDialogButtonBox::AcceptRole);
    create->setProperty("main", true);
    create->setDefault(true);
    auto* form = new QFormLayout(&sheet);
    form->addRow(words("Coordinate system"), system);
    form->addRow(QString(), remark);
    form->addRow(buttons);
    QObject::connect(buttons, &QDialogButtonBox::rejected, &sheet, &QDialog::reject);
    QObject::connect(buttons, &QDialogButtonBox::accepted, &sheet, [&sheet, system, remark] {
        const auto typed = system->text().trimmed().toStdString();
        try {
            if (!typed.empty()) (void)setSystem(Project(), typed);
            sheet.accept();
        } catch (const Error& e) { // says which systems can be
            remark->setText(QString::fromStdString(e.what()));
            system->setFocus();
        }
    });
    return sheet.exec() == QDialog::Accepted ? std::optional(system->text().trimmed()) : std::nullopt;
}

} // namespace fox::app
