#include "dialogs/source_sheet.h"

#include "dialogs/ground_settings.h"
#include "project/ground_edits.h"

#include "style/theme.h"
#include "style/words.h"

#include "views/system_edit.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTreeWidget>

namespace fox::app {

namespace {
QString qt(const std::string& s) { return QString::fromStdString(s); }
} // namespace

SourceSheet::SourceSheet(std::function<Project()> newest, std::shared_ptr<const AgsFile> parsed, const QString& name,
                         QWidget* parent)
    : QDialog(parent),
      m_project(std::move(newest)),
      m_name(name),
      m_groups(new QTreeWidget(this)),
      m_leftHoles(new QListWidget(this)),
      m_crs(new SystemEdit(this)),
      m_words(new QLabel(this)),
      m_again(new QPushButton(tr("Read again"), this)),
      m_reading(this) {
    setObjectName("sourceSheet");
    setWindowTitle(name);
    setAttribute(Qt::WA_DeleteOnClose);
    resize(560, 520);
    const auto project = m_project();
    const auto file = std::ranges::find(*project.files, name.toStdString(), &SourceFile::name);
    auto* title = new QLabel(name, this);
    title->setStyleSheet("font-size: 16px; font-weight: 600;");
    m_words->setWordWrap(true);
    m_groups->setObjectName("sourceGroups");
    m_groups->setHeaderLabels({tr("Group"), tr("Rows"), tr("Used for")});
    m_groups->setRootIsDecorated(false);
    m_groups->setToolTip(tr("Ticked groups are used for the holes. Double-click one to see its rows"));
    m_groups->setAccessibleName(tr("Groups of the file"));
    m_leftHoles->setObjectName("leftHoles");
    m_leftHoles->setAccessibleName(tr("Holes that were left in the file"));
    m_leftHoles->setToolTip(tr("Holes that were left in the file: tick those that are to be added"));
    m_leftHoles->hide();
    m_crs->setPlaceholderText(tr("the project's"));
    m_again->setProperty("main", true);
    m_again->setObjectName("readAgain");
    auto* newer = new QPushButton(tr("Newer issue…"), this);
    newer->setToolTip(tr("Look for the file where it came from, or choose one; what would change is shown first"));
    auto* close = new QPushButton(tr("Close"), this);
    auto* form = new QFormLayout;
    form->addRow(tr("Coordinates in"), m_crs);
    m_ground = new GroundSettings(this);
    m_ground->setProject(project);
    form->addRow(m_ground);
    m_ground->hide();
    auto* out = new QPushButton(tr("Remove"), this);
    out->setObjectName("takeOut");
    out->setToolTip(tr("Remove the file and its ground data from the project"));
    out->hide();
    connect(out, &QPushButton::clicked, this, [this] {
        emit editMade([file = m_name.toStdString()](const Project& p) { return removeSource(p, file); });
        accept();
    });
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(newer);
    buttons->addWidget(out);
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(m_again);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->addWidget(title);
    layout->addWidget(m_words);
    layout->addWidget(m_groups, 1);
    layout->addWidget(m_leftHoles, 1);
    layout->addLayout(form);
    layout->addLayout(buttons);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(m_again, &QPushButton::clicked, this, &SourceSheet::readAgain);
    connect(m_groups, &QTreeWidget::itemDoubleClicked, this, [this](QTreeWidgetItem* item) {
        emit tableAsked("group:" + m_name + ":" + item->text(0));
        accept();
    });
    if (file == project.files->end()) return;
    m_crs->setSystem(qt(file->settings.crs));
    m_words->setText(tr("%1, %2 kB, %3. %4")
                         .arg(qt(file->format))
                         .arg(file->bytes.text->size() / 1000)
                         .arg(counted(qint64(file->findings.size()), "finding"),
                              file->path.empty() ? QString() : tr("Read from %1.").arg(qt(file->path))));
    const auto& ground = *project.ground;
    const auto of = [&](const auto& list) {
        return std::ranges::count(list, file->name, [](const auto& s) { return s.file; }) > 0;
    };
    if (of(ground.points) || of(ground.lines) || of(ground.rasters) || of(ground.outlines) || of(*project.contactPoints)) {
        const auto kind = groundKindOf(file->path.empty() ? file->name : file->path);
        std::vector<std::string> fields;
        if (!file->settings.levelField.empty()) fields.push_back(file->settings.levelField);
        if (!file->settings.unitField.empty()) fields.push_back(file->settings.unitField);
        m_ground->fill(file->settings, kind,
                       file->format == "survey points" || (file->format == "contacts" && kind == GroundKind::None)
                           ? GroundSettings::Rows::Points
                           : GroundSettings::Rows::None,
                       fields);
        m_ground->show();
        out->show();
        m_groups->hide();
        m_words->setText(m_words->text() + " "
                         + tr("Reading it again takes the file as it is now; manual edits stay and are applied to it."));
        resize(560, 320);
    }
    for (const auto& id : file->settings.holesOut) {
        auto* item = new QListWidgetItem(qt(id), m_leftHoles);
        item->setCheckState(Qt::Unchecked);
        m_leftHoles->show();
    }
    if (m_leftHoles->count() > 0)
        m_words->setText(m_words->text() + " "
                         + tr("%1 left in the file: tick those to add, and read it again.")
                               .arg(counted(m_leftHoles->count(), "hole was", "holes were")));
    if (parsed)
        for (const auto& g : parsed->groups) {
            const QString what = feeds(g.name);
            auto* item = new QTreeWidgetItem(
                m_groups, {qt(g.name), QString::number(g.rows.size()), what.isEmpty() ? tr("kept in the file") : what});
            if (what == "tests" || what == "paths")
                item->setCheckState(0, std::ranges::count(file->settings.groupsOut, g.name) ? Qt::Unchecked : Qt::Checked);
        }
    connect(newer, &QPushButton::clicked, this, [this, path = qt(file->path)] {
        auto wanted = path;
        if (wanted.isEmpty() || !QFileInfo::exists(wanted))
            wanted = QFileDialog::getOpenFileName(this, tr("The newer issue of %1").arg(m_name));
        if (wanted.isEmpty()) return;
        accept();
        emit newerAsked(wanted);
    });
}

void SourceSheet::readAgain() {
    const auto project = m_project();
    const auto file = std::ranges::find(*project.files, m_name.toStdString(), &SourceFile::name);
    if (file == project.files->end()) return reject();
    auto settings = file->settings;
    settings.crs = m_crs->text().trimmed().toStdString();
    if (m_ground->isVisible()) m_ground->into(settings);
    if (m_groups->topLevelItemCount() > 0) settings.groupsOut.clear(); // else they are layers, which stay as they were
    std::erase_if(settings.holesOut, [this](const std::string& id) {
        const auto items = m_leftHoles->findItems(qt(id), Qt::MatchExactly);
        return !items.isEmpty() && items.front()->checkState() == Qt::Checked;
    });
    for (int i = 0; i < m_groups->topLevelItemCount(); ++i) {
        const auto* item = m_groups->topLevelItem(i);
        if (!item->data(0, Qt::CheckStateRole).isNull() && item->checkState(0) != Qt::Checked)
            settings.groupsOut.push_back(item->text(0).toStdString());
    }
    m_again->setEnabled(false);
    m_reading.start(
        [project, name = file->name, settings](const Progress& progress) {
            auto made = rereadSource(project, name, settings, progress);
            return Edit([name, settings](const Project& p) { return rereadSource(p, name, settings); })
                .prepared(project, std::move(made));
        },
        [this](const Edit& edit) {
            emit editMade(edit);
            accept();
        },
        [this](const QString& sentence) {
            m_again->setEnabled(true);
            m_words->setText(sentence);
            m_words->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
        });
}

} // namespace fox::app
