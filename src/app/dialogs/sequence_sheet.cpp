#include "dialogs/sequence_sheet.h"

#include <QTabWidget>
#include <QVBoxLayout>

namespace fox::app {

SequenceSheet::SequenceSheet(std::shared_ptr<const ProductSet> products, const QString& unitCode, QWidget* parent)
    : QDialog(parent), m_tabs(new QTabWidget(this)), m_pages{makeProposalPage(this), makeSweepPage(this)} {
    setObjectName("sequenceSheet");
    setWindowTitle(tr("Assign units - Fox Cellar"));
    resize(860, 600);
    m_tabs->setObjectName("sequenceTabs");
    m_tabs->addTab(m_pages[0], tr("What the program proposes"));
    m_tabs->addTab(m_pages[1], tr("Assign by a tilted plane"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 14, 18, 16);
    layout->addWidget(m_tabs);
    for (auto* page : m_pages) {
        connect(page, &SequencePage::editMade, this, &SequenceSheet::editMade);
        connect(page, &SequencePage::failed, this, &SequenceSheet::failed);
        connect(page, &SequencePage::holeChosen, this, &SequenceSheet::holeChosen);
    }
    setProducts(std::move(products));
    setUnit(unitCode);
}

void SequenceSheet::setProducts(std::shared_ptr<const ProductSet> products) {
    for (auto* page : m_pages) page->setProducts(products);
}

void SequenceSheet::setUnit(const QString& code) {
    for (auto* page : m_pages) page->setUnit(code);
}

void SequenceSheet::showPage(Page page) { m_tabs->setCurrentIndex(int(page)); }

bool SequenceSheet::settled() const {
    return std::ranges::all_of(m_pages, [](const SequencePage* p) { return p->settled(); });
}

} // namespace fox::app
