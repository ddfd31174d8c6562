#pragma once
#include "sheets/sheet.h"
#include "views/background.h"
#include "views/view.h"

#include <QImage>

namespace fox::app {

/// The template that is looked at: the selection's, or the first that comes with the program.
const SheetTemplate& templateOf(const Selection&);
/// What the chosen template is filled with: the selected hole, section or unit, or the first there is; none: the project has
/// none.
std::optional<std::string> sheetItemOf(const SheetTemplate&, const Project&, const Selection&);
QString today(); ///< as sheets print it

/// A page of a sheet as it is printed: the chosen template, filled with what is selected. Pages are turned by the tools or by
/// Page Up and Page Down.
class PageView : public PannedView {
    Q_OBJECT
public:
    PageView(Selection*, QWidget* parent);
    QString title() const override { return tr("Page"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_fit, m_back, m_on, m_save}; }
    bool settled() const override;
    Wanted wanted(const Project&) const override;

    const std::shared_ptr<const FilledSheet>& sheet() const { return m_sheet; } ///< null: nothing to show
    std::size_t page() const { return m_page; }
    void turn(int pages); ///< on, or back

signals:
    void saveAsked(); ///< what is shown, as a file

protected:
    void productsChanged() override { fill(); }
    QRectF worldBounds() const override;
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void choiceChanged();
    void fill();
    void filled(FilledSheet);
    void paintAgain(double pixelsPerMillimetre);
    const paper::Drawing* drawing() const;

    QAction *m_fit, *m_back, *m_on, *m_save;
    std::shared_ptr<const FilledSheet> m_sheet;
    QString m_refused; ///< why there is none
    std::size_t m_page = 0;
    QImage m_image;
    const paper::Drawing* m_imageOf = nullptr;
    double m_imageScale = 0;
    Background<FilledSheet> m_filling; // last: they use the above
    Background<QImage> m_painting;
};

} // namespace fox::app
