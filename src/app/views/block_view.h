#pragma once
#include "views/block_scene.h"
#include "views/view.h"

#include <QTimer>

class QLabel;
class QMenu;

namespace fox::app {

class BlockCanvas;

/// The ground model in three dimensions: the ground over a block of units that can be cut open, holes as sticks, the
/// chosen section as a fence. Says so in words on a machine without OpenGL.
class BlockView : public View {
    Q_OBJECT
public:
    explicit BlockView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Block view"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override;
    QList<QAction*> tools() override;
    bool showsHoles() const override { return true; }
    QSize sizeHint() const override { return {500, 340}; }
    bool hasOpenGl() const { return m_canvas != nullptr; }
    bool settled() const override;

public slots:
    void fit();
    void setLook(const BlockScene::Look&);
    const BlockScene::Look& look() const { return m_look; }
    /// What is seen, in another size. Empty without OpenGL.
    QImage picture(QSize) const;

protected:
    void productsChanged() override;

private:
    void chooseCut();
    void chooseShown();
    /// A ticked line of a menu that changes the look.
    void addChoice(QMenu&, const QString& words, bool now, const std::function<void(BlockScene::Look&)>& change);
    void addFaces(QMenu&);
    void addViews(QMenu&);
    void askCutLevel();
    void savePicture();

    void showProducts();
    void chooseSurfaces();
    void addUprightCut();
    void showAlongLegend();
    QStringList cutInWords() const; ///< "cut open from the south"

    class AlongLegend* m_legend = nullptr;
    class BlockLegend* m_blockLegend = nullptr;

    BlockCanvas* m_canvas = nullptr;
    QTimer* m_later; ///< the flat views are drawn first: without a graphics card this one takes longer than all of them
    QLabel* m_words;
    BlockScene::Look m_look;
    QAction *m_fit, *m_cut, *m_shown, *m_higher;
    bool m_drawn = false;
};

} // namespace fox::app
