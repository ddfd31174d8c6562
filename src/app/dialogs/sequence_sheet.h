#pragma once
#include "products/products.h"
#include "project/sequence_edits.h"

#include <QDialog>

namespace fox::app {

/// A page of the sheet about which layer is which.
class SequencePage : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;
    void setProducts(std::shared_ptr<const ProductSet> products) {
        m_products = std::move(products);
        fill();
    }
    virtual void setUnit(const QString& code) = 0;
    virtual bool settled() const { return true; }

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);
    void holeChosen(const QString& name);

protected:
    virtual void fill() = 0;
    const ProductSet& products() const { return *m_products; }
    bool hasProducts() const { return m_products != nullptr; }

private:
    std::shared_ptr<const ProductSet> m_products;
};

/// Which layer is which: what the program proposes, to be accepted whole or in part. It stays open beside the window and follows
/// it.
class SequenceSheet : public QDialog {
    Q_OBJECT
public:
    SequenceSheet(std::shared_ptr<const ProductSet>, const QString& unitCode, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    void setUnit(const QString& code);
    bool settled() const;

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);
    void holeChosen(const QString& name);

private:
    SequencePage* m_page;
};

SequencePage* makeProposalPage(QWidget* parent);

} // namespace fox::app
