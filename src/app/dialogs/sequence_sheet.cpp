#include "dialogs/sequence_sheet.h"

#include <QVBoxLayout>

namespace fox::app {

SequenceSheet::SequenceSheet(std::shared_ptr<const ProductSet> products, const QString& unitCode, QWidget* parent)
    : QDialog(parent), m_page(makeProposalPage(this)) {
    setObjectName("sequenceSheet");
    setWindowTitle(tr("Assign units - Fox Cellar"));
    resize(860, 600);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 14, 18, 16);
    layout->addWidget(m_page);
    connect(m_page, &SequencePage::editMade, this, &SequenceSheet::editMade);
    connect(m_page, &SequencePage::failed, this, &SequenceSheet::failed);
    connect(m_page, &SequencePage::holeChosen, this, &SequenceSheet::holeChosen);
    setProducts(std::move(products));
    setUnit(unitCode);
}

void SequenceSheet::setProducts(std::shared_ptr<const ProductSet> products) { m_page->setProducts(std::move(products)); }

void SequenceSheet::setUnit(const QString& code) { m_page->setUnit(code); }

bool SequenceSheet::settled() const { return m_page->settled(); }

} // namespace fox::app
