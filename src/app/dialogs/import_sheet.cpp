#include "dialogs/import_sheet.h"

#include "base/errors.h"
#include "base/files.h"
#include "style/theme.h"
#include "views/plan_view.h"

#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <fmt/ranges.h>

namespace fox::app {

/// A small map: what is in the file, over what the project has already.
class ImportSheet::PlaceMap : public QWidget {
public:
    using QWidget::QWidget;
    std::vector<Point2> there;
    std::vector<Point2> coming;
    bool dots = false; ///< survey points, else holes

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.fillRect(rect(), colour::desk);
        Box2 box;
        for (const auto& p : coming) box.include(p);
        for (const auto& p : there) box.include(p);
        if (box.empty()) return paintEmpty(painter, rect(), tr("No places in this file."));
        const double scale = std::min((width() - 30) / std::max(1.0, box.width()), (height() - 30) / std::max(1.0, box.height()));
        const auto at = [&](Point2 p) {
            return QPointF(width() / 2.0 + (p.x - box.centre().x) * scale, height() / 2.0 - (p.y - box.centre().y) * scale);
        };
        painter.setPen(Qt::NoPen);
        painter.setBrush(colour::line.darker(125));
        for (const auto& p : there) painter.drawEllipse(at(p), 3, 3);
        painter.setBrush(colour::fox);
        for (const auto& p : coming) painter.drawEllipse(at(p), dots ? 1 : 4, dots ? 1 : 4);
        painter.setPen(colour::muted);
        painter.setFont(bodyFont(11));
        painter.drawText(rect().adjusted(8, 4, -8, -4), Qt::AlignBottom | Qt::AlignLeft,
                         tr("this file in fox, the project's holes in grey"));
    }
};

ImportSheet::ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent)
    : QDialog(parent),
      m_paths(paths.begin(), paths.end()),
      m_project(std::move(project)),
      m_title(new QLabel(this)),
      m_facts(new QLabel(this)),
      m_findingsTitle(new QLabel(this)),
      m_tables(new QListWidget(this)),
      m_findings(new QListWidget(this)),
      m_columns(new QLineEdit(this)),
      m_columnsRow(new QWidget(this)),
      m_map(new PlaceMap(this)),
      m_import(new QPushButton(tr("Import"), this)),
      m_skip(new QPushButton(tr("Leave it out"), this)) {
    setObjectName("importSheet");
    setWindowTitle(tr("Import"));
    setModal(true);
    resize(760, 540);
    m_title->setFont(bodyFont(16, true));
    m_title->setStyleSheet("font-size: 16px; font-weight: 600;");
    m_facts->setWordWrap(true);
    m_facts->setObjectName("importFacts");
    m_map->setMinimumSize(300, 220);
    m_findings->setWordWrap(true);
    m_findings->setAccessibleName(tr("What was not understood"));
    m_tables->setAccessibleName(tr("Groups in the file"));
    m_import->setProperty("main", true);
    m_import->setObjectName("importButton");
    m_import->setDefault(true);
    auto* columns = new QFormLayout(m_columnsRow);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->addRow(tr("Columns, in order"), m_columns);
    m_columns->setPlaceholderText(tr("point,northing,easting,level,code (empty: the first row names them)"));
    connect(m_columns, &QLineEdit::editingFinished, this, &ImportSheet::understand);
    auto* middle = new QHBoxLayout;
    auto* left = new QVBoxLayout;
    left->addWidget(m_map, 1);
    middle->addLayout(left, 3);
    middle->addWidget(m_tables, 2);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(m_skip);
    buttons->addWidget(m_import);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(10);
    layout->addWidget(m_title);
    layout->addWidget(m_facts);
    layout->addWidget(m_columnsRow);
    layout->addLayout(middle, 3);
    layout->addWidget(m_findingsTitle);
    layout->addWidget(m_findings, 1);
    layout->addLayout(buttons);
    connect(m_import, &QPushButton::clicked, this, &ImportSheet::import);
    connect(m_skip, &QPushButton::clicked, this, &ImportSheet::next);
    next();
}

void ImportSheet::next() {
    if (m_paths.empty()) return accept();
    const auto path = m_paths.front();
    m_paths.pop_front();
    m_name = QFileInfo(path).fileName().toStdString();
    m_columns->clear();
    m_skip->setText(m_paths.empty() ? tr("Leave it out") : tr("Leave it out, next file"));
    try {
        m_bytes = readBytes(path.toStdString());
    } catch (const Error& e) {
        m_bytes.clear();
        m_title->setText(QString::fromStdString(m_name));
        m_facts->setText(QString::fromStdString(e.what()));
        m_import->setEnabled(false);
        return;
    }
    understand();
}

void ImportSheet::understand() {
    m_ags.reset();
    m_survey.reset();
    m_tables->clear();
    m_findings->clear();
    m_map->coming.clear();
    m_map->there.clear();
    const auto holes = m_project().holes;
    for (const auto& h : *holes)
        if (const auto p = h.place()) m_map->there.push_back(*p);
    m_title->setText(QString::fromStdString(m_name));
    const bool ags = looksLikeAgs(m_bytes);
    m_columnsRow->setVisible(!ags);
    m_findingsTitle->setVisible(true);
    m_import->setEnabled(true);
    try {
        if (ags) {
            m_ags = understandAgs(m_bytes, m_name);
            showAgs();
        } else {
            std::vector<std::string> names;
            for (const auto& c : m_columns->text().split(',', Qt::SkipEmptyParts)) names.push_back(c.trimmed().toStdString());
            m_survey = understandSurvey(m_bytes, m_name, names);
            showSurvey();
        }
    } catch (const Error& e) {
        m_facts->setText(
            QString::fromStdString(e.what()) + " "
            + tr("Nothing of it has entered the project. Fox Cellar imports AGS 3.1 and 4 files, and survey points as CSV."));
        m_facts->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
        m_import->setEnabled(false);
        m_findingsTitle->setVisible(false);
    }
    m_map->update();
}

void ImportSheet::showAgs() {
    const auto& c = m_ags->content;
    const auto twice = alreadyThere(m_project(), *m_ags);
    m_facts->setStyleSheet({});
    QString facts = tr("%1, project %2%3. %4 holes")
                        .arg(QString::fromStdString(m_ags->file.format), QString::fromStdString(c.project),
                             c.title.empty() ? QString() : ": " + QString::fromStdString(c.title))
                        .arg(c.holes.size());
    if (!twice.empty())
        facts += tr(", of which %1 are in the project already and stay as they are (%2)")
                     .arg(twice.size())
                     .arg(QString::fromStdString(fmt::format("{}", fmt::join(twice, ", "))));
    m_facts->setText(facts + ".");
    for (const auto& g : m_ags->groups) m_tables->addItem(QString::fromStdString(g));
    m_map->dots = false;
    for (const auto& h : c.holes)
        if (const auto p = h.place()) m_map->coming.push_back(*p);
    auto findings = m_ags->file.findings;
    const auto sense = checkHoles(c.holes);
    findings.insert(findings.end(), sense.begin(), sense.end());
    showFindings(findings);
    m_import->setText(tr("Import %1 holes").arg(c.holes.size() - twice.size()));
    m_import->setEnabled(twice.size() < c.holes.size());
}

void ImportSheet::showSurvey() {
    const auto& s = m_survey->survey;
    m_facts->setStyleSheet({});
    double low = kNoValue, high = kNoValue;
    std::map<std::string, int> codes;
    for (const auto& p : s.points) {
        low = std::fmin(low, p.place.z), high = std::fmax(high, p.place.z);
        ++codes[p.code];
        m_map->coming.push_back(p.place.plan());
    }
    m_map->dots = true;
    m_facts->setText(tr("Survey points: %1, levels from %2 to %3.").arg(s.points.size()).arg(metres(low), metres(high)));
    for (const auto& [code, n] : codes)
        m_tables->addItem(tr("%1, %2 points").arg(code.empty() ? tr("no code") : QString::fromStdString(code)).arg(n));
    showFindings(s.findings);
    m_import->setText(tr("Import %1 points").arg(s.points.size()));
}

void ImportSheet::showFindings(const Findings& findings) {
    m_findingsTitle->setText(findings.empty() ? tr("Everything was understood.") : tr("%1 findings:").arg(findings.size()));
    m_findings->setVisible(!findings.empty());
    for (const auto& f : findings) m_findings->addItem(QString::fromStdString(describe(f)));
}

void ImportSheet::import() {
    if (m_ags) emit editMade(addHoles(m_project(), *m_ags));
    if (m_survey) emit editMade(addSurvey(m_project(), *m_survey));
    next();
}

} // namespace fox::app
