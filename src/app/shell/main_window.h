#pragma once
#include "shell/session.h"
#include "shell/stage_page.h"
#include "shell/workspace.h"
#include "stages/stages.h"

#include <QMainWindow>

class QStackedWidget;

namespace fox::app {

class Banner;
class FindingsStrip;
class GroundActions;
class ProjectActions;
class SequenceActions;
class SheetActions;
class BlockActions;
class LayerActions;
class SurfaceActions;
class StageColumn;
class Refusal;
class StatusLine;
class TopBar;
class Welcome;

/// Puts the parts together: the session, the stages and their panes, the bars. It holds no rule of its own.
class MainWindow : public QMainWindow, private Workspace {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    void showStage(const QString& id);
    void importFiles(const QStringList& paths) override;

    Session& session() override { return *m_session; }
    Selection& selection() override { return *m_selection; }
    ProjectActions* projects() const { return m_projects; }
    SurfaceActions* surfaces() const { return m_surfaces; }
    SequenceActions* sequence() const { return m_sequence; }
    SheetActions* sheets() const { return m_sheets; }
    LayerActions* layers() const { return m_layers; }
    BlockActions* blocks() const { return m_blocks; }
    StagePage* page() const; ///< the stage that is shown
    /// Nothing is being worked out and every view has what there is.
    bool settled() const;
    void takeTheme();   ///< the chosen theme and size of text, everywhere
    bool shown() const; ///< what is in sight is of the newest version and drawn; findings and saving may go on

signals:
    void said(const QString& sentence); ///< what the status line says

protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void closeEvent(QCloseEvent*) override;

private:
    QWidget* dialogParent() override { return this; }
    PlanView* planOn(const char* stage) override;
    PlanView* planInSight() override;
    void say(const QString& sentence) override;
    void refuse(const QString& sentence) override;

    void makeActions();
    void makeMenus();
    void connectSession();
    void setStage(int);
    void connectView(View*);
    void projectChanged();
    void tellWanted();
    void productsChanged();
    void showFinding(const Finding&);
    void showLine(const Finding&);
    void drawSection();
    void applyRemedy(const Remedy&);
    void readAgain(const QString& file);
    void act(const PanelAction&);
    void drawOnPlan(const DrawOnPlan&);
    void placeHole(const QString& name);
    void showTable(const QString& key);
    void showSource(const QString& file);
    void saveCorrections();
    void pasteTable();
    void openSheet(class ImportSheet*);
    std::shared_ptr<const Findings> withFileFindings(const std::shared_ptr<const Findings>&) const;
    void fillFind();
    void tellSaved();
    void projectOpened();
    void addThemeMenus(class QMenu&);
    void addHelpMenu();
    void showWelcome();
    void askImport();
    void askExport();
    QAction* action(const char* objectName, const QString& words, const QKeySequence&, const QString& tip,
                    std::function<void()> go);

    Session* m_session;
    Selection* m_selection;
    TopBar* m_top;
    StageColumn* m_column;
    QStackedWidget *m_pages, *m_shelves;
    Banner* m_banner;
    Refusal* m_refusal;
    FindingsStrip* m_findings;
    StatusLine* m_status;
    Welcome* m_welcome;
    ProjectActions* m_projects;
    GroundActions* m_ground;
    SurfaceActions* m_surfaces;
    SequenceActions* m_sequence;
    SheetActions* m_sheets;
    LayerActions* m_layers;
    BlockActions* m_blocks;
    QAction *m_undo, *m_redo, *m_import, *m_export;
    std::size_t m_stage = 0;              ///< the one that is shown, also if it is a part of another
    std::vector<StagePage*> m_stagePages; ///< made when first shown
    std::vector<Shelf*> m_stageShelves;
    bool m_firstProducts = true;
    std::pair<std::string, std::string> m_selectedHole; ///< project and id: it may get another name
};

} // namespace fox::app
