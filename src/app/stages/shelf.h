#pragma once
#include "products/products.h"
#include "project/remedies.h"
#include "stages/panel_action.h"
#include "views/selection.h"

#include <QFrame>
#include <functional>

class QComboBox;
class QGridLayout;
class QLabel;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace fox::app {

/// The right side of a stage: short lists, one main button, and the card of what is selected.
class Shelf : public QFrame {
    Q_OBJECT
public:
    Shelf(const QString& title, Selection*, QWidget* parent);
    /// What it shows beyond what is always worked out.
    virtual Wanted wanted() const { return {}; }
    void setProducts(std::shared_ptr<const ProductSet>);
    void refill(); ///< with what is shown already: typed values that were refused go

signals:
    void editMade(const fox::Edit&);
    void actionAsked(const fox::app::PanelAction&);
    void failed(const QString& sentence);

protected:
    virtual void fillBody() = 0; ///< with the helpers below
    virtual void fillCard() {}   ///< may leave it empty: then it is not shown

    const ProductSet* products() const { return m_products.get(); }
    Selection* selection() const { return m_selection; }

    QPushButton* mainButton(const QString& words, const QString& tip);
    void heading(const QString&);
    void words(const QString&, const QColor& = {});
    /// A row "left ... right"; pressing it calls `go`.
    void row(const QString& left, const QString& right, const std::function<void()>& go = {}, bool chosen = false);
    /// Something to press that changes the project, on the right in the accent colour.
    void offer(const QString& words, const std::function<void()>& go);
    /// Several of them on one line: what is seen, and the whole of what it does for those who do not see it.
    struct Offer {
        QString words, name;
        std::function<void()> go;
    };
    void offers(const std::vector<Offer>&);
    /// Its words, and its remedy to press if it has one.
    void finding(const Finding&);
    void unitRow(const Unit&, const QString& right);
    /// Buttons for the parts of a stage, the chosen one pressed: ids and words.
    void partSwitch(const std::vector<std::pair<const char*, QString>>& parts, const char* chosen);
    /// The parts of the Model stage.
    void modelPartSwitch(const char* chosen);
    /// A field for a number, with words before it.
    void numberRow(const QString& words, const char* objectName, double value, double least, double most, int decimals,
                   const QString& suffix, const std::function<void(double)>& changed);
    /// A choice, with words before it.
    void choiceRow(const QString& words, const char* objectName, const QStringList& choices, int now,
                   const std::function<void(int)>& changed);
    /// A choice with long words, which do not make the panel wider; the list that opens shows them whole.
    static QComboBox* narrowBox();
    void wide(QWidget*); ///< over the body's whole width
    void cardTitle(const QString& strong, const QString& rest);
    void cardFact(const QString& name, const QString& value, const QString& remark = {}, const QColor& = {});
    void cardWidget(const QString& name, QWidget*);
    void cardWide(QWidget*);

private:
    std::shared_ptr<const ProductSet> m_products;
    Selection* m_selection;
    QPushButton* m_main;
    QScrollArea* m_scroll;
    QVBoxLayout* m_body;
    QFrame* m_card;
    QGridLayout* m_cardGrid;
    bool m_filling = false;
};

/// A row that can be pressed, by mouse or key.
class ShelfRow : public QWidget {
    Q_OBJECT
public:
    explicit ShelfRow(QWidget* parent);
    std::function<void()> go;
    bool chosen = false;

protected:
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void paintEvent(QPaintEvent*) override;
};

} // namespace fox::app
