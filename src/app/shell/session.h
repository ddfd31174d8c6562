#pragma once
#include "products/products.h"
#include "project/edits.h"
#include "store/store.h"
#include "views/background.h"

#include <QDateTime>
#include <QObject>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

namespace fox::app {

using ProductsPtr = std::shared_ptr<const ProductSet>;

/// The open project: its history, its file, a thread that saves and one that works products out. The newest request wins;
/// the interface waits for neither. All edits are made here, of the newest version, and what they throw is caught here.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override; ///< finishes saving

    const Project& project() const { return m_history.now(); }
    const History& history() const { return m_history; }
    ProductsPtr products() const { return m_products; } ///< the last good ones; null at first
    bool outOfDate() const { return m_busy; }           ///< something is being opened, worked out or saved
    bool opening() const { return m_opening.busy(); }
    QString path() const { return m_path; }
    QDateTime savedAt() const { return m_savedAt; }
    /// Why the project can be looked at only; empty if it can be edited.
    QString readOnlyBecause() const { return m_readOnly; }
    /// Why the last edits are not in the file; empty if they are, or are on their way.
    QString notSavedBecause() const { return m_notSaved; }
    /// What the file holds that could not be read, or was changed outside.
    const Findings& fileFindings() const { return m_fileFindings; }

    /// Opens a project file beside the window: opened(), or openFailed() with the project that was open still there.
    void open(const QString& path);
    /// The same, after writing a file of what `make` gives; a file that is there is replaced. `make` runs on another thread.
    void openNew(const QString& path, std::function<Project()> make);
    /// Writes the project, as it is, to another file and goes on there: saved(), or failed().
    void saveAs(const QString& path);

    /// Makes an edit of the newest version. False if it does not fit: then nothing changes, and refused() says why.
    bool apply(const Edit&);
    /// Shows what an edit would make, while something is dragged: it is not in the history and not saved, automatic bases keep
    /// their weights and ranges, and only sections and what stands along holes is worked out. Until the next one, an edit, undo,
    /// redo or endPreview(). An edit that does not fit shows nothing new.
    void preview(const Edit&);
    void endPreview();
    bool showsPreview() const { return m_showsPreview; } ///< products() are of one: without grids
    void undo();
    void redo();
    void stopWork(); ///< keeps the last good products
    void workAgain();
    /// Tries once more to write what could not be written.
    void saveAgain();
    /// Waits until the last edit is in the file. False if it can't be written.
    bool finishSaving();
    /// What is looked at: only that is worked out, first what is in sight, then what only the findings ask for.
    void setWanted(const Wanted&);
    /// Calls `use` with products that have all of this, made of the newest version: at once if they are there, else when they
    /// are; with null if the work is stopped or fails.
    void ask(const Wanted&, std::function<void(ProductsPtr)> use);
    /// Block models that were left out of date are made: see BlocksAtHand.
    void makeBlocksAgain(const std::set<std::string>& names);
    void setPatience(double seconds) { m_maker.setPatience(seconds); } ///< of BlocksAtHand
    /// How many products of a kind were made so far; see ProductCache::made.
    int made(std::string_view kind) const { return m_maker.made(kind); }
    /// Works nothing out until it is released; edits and saving go on. For tests and for many edits at once.
    void holdWork(bool held);

signals:
    void opened();
    void openFailed(const QString& sentence);
    void projectChanged();
    void productsChanged();
    void progressed(double fraction, const QString& words);
    void busyChanged(bool busy);
    void saved();
    void saveStateChanged();               ///< notSavedBecause() or readOnlyBecause()
    void refused(const QString& sentence); ///< an edit that no longer fits
    void failed(const QString& sentence);  ///< something went wrong out of sight

private:
    struct Opened {
        std::shared_ptr<ProjectStore> store;
        QString path;
    };
    void startOpening(const QString& path, std::function<Project()> make);
    void take(Opened);
    enum class Save { Yes, No };
    /// What is to be worked out next.
    struct Job {
        Project project;
        std::shared_ptr<const Model> held; ///< of a preview: see Products::of
        bool isPreview = false;
    };
    void request(Save = Save::Yes); ///< the newest version is to be worked out, and saved
    void saveNewest();              ///< with m_mutex held
    void go(History::Way);          ///< undo or redo, after reading the version if it is in the file
    void setBusy();
    void saveLoop(std::stop_token);
    void workLoop(std::stop_token);
    struct Asked {
        Wanted wanted;
        std::function<void(ProductsPtr)> use;
    };
    bool makeAll(const Job&, const Wanted&, std::stop_token); ///< false if it was stopped or failed
    void giveUp();
    ProductsPtr make(const Job&, const Wanted&, std::stop_token);
    void take(ProductsPtr);
    bool upToDate(const Wanted&) const; ///< the last products are of the newest version and have all of this
    void saveDone(const QString& problem);
    template <typename Call>
    void onWindow(Call call) {
        QMetaObject::invokeMethod(this, std::move(call), Qt::QueuedConnection);
    }

    History m_history{Project{}};
    QString m_path, m_readOnly, m_notSaved;
    QString m_keptIn; ///< the file with the versions of the history that are not in memory
    Findings m_fileFindings;
    QDateTime m_savedAt;
    ProductsPtr m_products;
    bool m_busy = false;
    std::vector<Asked> m_asked;
    std::set<std::string> m_againBlocks; ///< block models that are to be made, and are not yet
    bool m_previewing = false, m_showsPreview = false;
    std::shared_ptr<const Model> m_model; ///< the last that is of a version of the history

    std::mutex m_mutex; // for what follows
    std::condition_variable_any m_wakeSaver, m_wakeMaker;
    std::condition_variable m_idle;
    std::shared_ptr<ProjectStore> m_store;
    /// A version of the history that is to be saved.
    struct ToSave {
        Project project;
        KeptStep step;
    };
    std::deque<ToSave> m_toSave; ///< each is a step of the history that the file keeps
    std::optional<Job> m_toMake;
    Wanted m_wanted{ProductKind::AllFindings}, m_alsoWanted; ///< by those who look, and by those who asked
    bool m_saving = false, m_making = false, m_makingPreview = false, m_held = false, m_saveFailed = false;
    std::stop_source m_stop; ///< of what is being made
    Products m_maker;
    Background<Opened> m_opening;
    Background<Project> m_reading;  ///< a version of the history
    std::jthread m_saver, m_worker; // last: they use all of the above
};

} // namespace fox::app
