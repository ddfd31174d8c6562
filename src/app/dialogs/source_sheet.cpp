#include "dialogs/source_sheet.h"

#include "project/ground_edits.h"
#include "style/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

QString wordsOf(const SourceFile& file) {
    auto words = SourceSheet::tr("%1, %2 kB, %3. %4")
                     .arg(qt(file.format))
                     .arg(file.bytes.text->size() / 1000)
                     .arg(counted(qint64(file.findings.size()), "finding"),
                          file.path.empty() ? QString() : SourceSheet::tr("Read from %1.").arg(qt(file.path)));
    if (!file.settings.holesOut.empty())
        words += " "
                 + SourceSheet::tr("%1 left in the file: read it again to add them.")
                       .arg(counted(qint64(file.settings.holesOut.size()), "hole was", "holes were"));
    return words;
}

} // namespace

SourceSheet::SourceSheet(const Project& project, const std::shared_ptr<const AgsFile>& parsed, const QString& name,
                         QWidget* parent)
    : QDialog(parent), m_name(name), m_groups(new QTreeWidget(this)) {
    setObjectName("sourceSheet");
    setWindowTitle(name);
    setAttribute(Qt::WA_DeleteOnClose);
    const auto& ground = *project.ground;
    const auto of = [&](const auto& list) {
        return std::ranges::count(list, name.toStdString(), [](const auto& s) { return s.file; }) > 0;
    };
    const auto file = std::ranges::find(*project.files, name.toStdString(), &SourceFile::name);
    const bool isGround = of(ground.points) || of(ground.lines) || of(ground.rasters) || of(ground.outlines)
                          || of(*project.contactPoints) || of(*project.valuePoints);
    build(file == project.files->end() ? SourceFile() : *file, isGround);
    m_groups->setVisible(parsed != nullptr);
    if (!parsed) return;
    for (const auto& g : parsed->groups) {
        const QString what = feeds(g.name);
        const bool out = file != project.files->end() && std::ranges::count(file->settings.groupsOut, g.name) > 0;
        new QTreeWidgetItem(m_groups, {qt(g.name), QString::number(g.rows.size()),
                                       out              ? tr("not imported")
                                       : what.isEmpty() ? tr("kept in the file")
                                                        : what});
    }
}

void SourceSheet::build(const SourceFile& file, bool isGround) {
    auto* title = new QLabel(m_name, this);
    title->setStyleSheet("font-size: 16px; font-weight: 600;");
    auto* words = new QLabel(wordsOf(file), this);
    words->setObjectName("sourceWords");
    words->setWordWrap(true);
    m_groups->setObjectName("sourceGroups");
    m_groups->setHeaderLabels({tr("Group"), tr("Rows"), tr("Used for")});
    m_groups->setRootIsDecorated(false);
    m_groups->setToolTip(tr("Double-click a group to see its rows"));
    m_groups->setAccessibleName(tr("Groups of the file"));
    auto* newer = new QPushButton(tr("Newer issue…"), this);
    newer->setToolTip(tr("Look for the file where it came from, or choose one; what would change is shown first"));
    auto* remove = new QPushButton(tr("Remove"), this);
    remove->setObjectName("takeOut");
    remove->setToolTip(tr("Remove the file and its ground data from the project"));
    remove->setVisible(isGround);
    auto* close = new QPushButton(tr("Close"), this);
    auto* again = new QPushButton(tr("Read again…"), this);
    again->setProperty("main", true);
    again->setObjectName("readAgain");
    again->setDefault(true);
    again->setToolTip(tr("With other groups, holes, columns or coordinates; ground data as the file is now. What would change is "
                         "shown first; manual edits stay"));
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(newer);
    buttons->addWidget(remove);
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(again);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->addWidget(title);
    layout->addWidget(words);
    layout->addWidget(m_groups, 1);
    layout->addStretch(0);
    layout->addLayout(buttons);
    resize(560, isGround ? 180 : 460);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(remove, &QPushButton::clicked, this, [this] {
        emit editMade([file = m_name.toStdString()](const Project& p) { return removeSource(p, file); });
        accept();
    });
    connect(again, &QPushButton::clicked, this, [this] {
        accept();
        emit readAgainAsked(m_name);
    });
    connect(m_groups, &QTreeWidget::itemDoubleClicked, this, [this](QTreeWidgetItem* item) {
        emit tableAsked("group:" + m_name + ":" + item->text(0));
        accept();
    });
    connect(newer, &QPushButton::clicked, this, [this, path = qt(file.path)] { askNewer(path); });
}

void SourceSheet::askNewer(const QString& path) {
    auto wanted = path;
    if (wanted.isEmpty() || !QFileInfo::exists(wanted))
        wanted = QFileDialog::getOpenFileName(this, tr("The newer issue of %1").arg(m_name));
    if (wanted.isEmpty()) return;
    accept();
    emit newerAsked(wanted);
}

} // namespace fox::app
