#include "dialogs/surface_sheet.h"
#include "style/theme.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Each hole's word on the base, and what the geologist makes of it.
class ContactsPage : public SurfacePage {
public:
    explicit ContactsPage(QWidget* parent) : SurfacePage(parent) {
        m_table->setObjectName("contactTable");
        m_table->setColumnCount(5);
        m_table->setHorizontalHeaderLabels(
            {tr("Hole"), tr("What it says"), tr("Level, m"), tr("Leave-one-out error, m"), tr("You say")});
        m_table->verticalHeader()->hide();
        m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
        m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
        m_table->horizontalHeader()->setStretchLastSection(true);
        auto* words = new QLabel(tr("A log can leave the base open or mislead: state here what a hole shows of it. It is kept "
                                    "apart from the contractor's log, and Undo takes it back."),
                                 this);
        words->setWordWrap(true);
        words->setProperty("muted", true);
        auto* layout = new QVBoxLayout(this);
        layout->addWidget(words);
        layout->addWidget(m_table, 1);
    }

protected:
    void fill() override {
        const int row = m_table->currentRow();
        const auto& own = products().project.interpretation->contacts;
        // as logged, so that holes left out by hand can be taken back
        const auto logged = contactsOf(*products().reading, *products().project.sequence)[unitIndex()];
        m_table->setRowCount(int(logged.size()));
        for (int i = 0; i < int(logged.size()); ++i) {
            const auto& c = logged[std::size_t(i)];
            const auto chosen =
                std::ranges::find_if(own, [&](const ContactChoice& o) { return o.hole == c.hole && o.unit == unit().code; });
            const auto cell = [&](int column, const QString& text, bool figure = false) {
                auto* item = new QTableWidgetItem(text);
                if (figure) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                if (chosen != own.end()) item->setFont(bodyFont(13, true));
                m_table->setItem(i, column, item);
            };
            cell(0, QString::fromStdString(c.hole));
            cell(1, c.undecided ? tr("absent, or the hole stops in it") : QString::fromUtf8(fox::words(c.kind)));
            cell(2, QString::number(c.place.z, 'f', 2), true);
            const auto error = base().leaveOneOutAt(c.hole);
            cell(3, error ? QString::number(*error, 'f', 2) : QString(), true);
            auto* say = new QComboBox;
            say->setObjectName("say-" + QString::fromStdString(c.hole));
            say->addItem(tr("as logged"));
            for (int k = 0; k <= int(ContactChoice::Kind::Excluded); ++k)
                say->addItem(QString::fromUtf8(fox::words(ContactChoice::Kind(k))));
            say->setCurrentIndex(chosen == own.end() ? 0 : 1 + int(chosen->kind));
            say->setFocusPolicy(Qt::StrongFocus);
            connect(say, &QComboBox::activated, this, [this, hole = c.hole](int index) {
                const auto kind = index == 0 ? std::nullopt : std::optional(ContactChoice::Kind(index - 1));
                emit editMade(
                    [hole, code = unit().code, kind](const Project& p) { return setContactChoice(p, hole, code, kind); });
            });
            m_table->setCellWidget(i, 4, say);
        }
        m_table->resizeColumnsToContents();
        if (row >= 0) m_table->setCurrentCell(row, 0);
    }

private:
    QTableWidget* m_table = new QTableWidget(this);
};

} // namespace

SurfacePage* makeContactsPage(QWidget* parent) { return new ContactsPage(parent); }

} // namespace fox::app
