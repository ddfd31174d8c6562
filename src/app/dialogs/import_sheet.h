#pragma once
#include "dialogs/import_entry.h"
#include "views/background.h"

#include <QDialog>
#include <functional>
#include <optional>

class QLabel;
class QPushButton;

namespace fox::app {

class ImportDetails;
class ImportList;

/// Shows what was understood of the files to import before anything enters the project: all files that came together, those
/// that need an answer first. Those that are ready go in at once, the rest stay. Reading runs beside the window, one file after
/// another, and can be stopped.
class ImportSheet : public QDialog {
    Q_OBJECT
public:
    /// `project` gives the version to add to, asked anew for each reading.
    ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent);
    /// Text that was pasted, as a table.
    struct PastedText {
        QString text;
    };
    ImportSheet(const PastedText&, std::function<Project()> project, QWidget* parent);
    /// A file of the project, to be read again with other settings.
    struct KnownFile {
        QString name;
    };
    ImportSheet(const KnownFile&, std::function<Project()> project, QWidget* parent);
    ~ImportSheet() override;
    bool reading() const;
    void addFiles(const QStringList& paths); ///< those that are in the list already are not added again

signals:
    void editMade(const fox::Edit&);

protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    /// What importing some of the files gave.
    struct Imported {
        std::optional<Edit> edit;
        std::vector<int> taken;                       ///< entries
        std::vector<std::pair<int, QString>> refused; ///< entries, and why
    };
    /// What the details were last filled with.
    struct Shown {
        int id = 0;
        ImportEntry::State state = ImportEntry::State::Waiting;
        std::shared_ptr<const ReadFile> read;
        bool operator==(const Shown&) const = default;
    };
    explicit ImportSheet(std::function<Project()> project, QWidget* parent);
    void build();
    void connectAll();
    void addFile(SourceFile);
    ImportEntry* entry(int id);
    ImportEntry* waiting(); ///< the next one to read; null if there is none
    std::vector<const ImportEntry*> importable() const;
    int othersLike(const ImportEntry&) const;
    FilesBeside filesBeside(int id) const; ///< of those that are ready
    void readNext();
    void readAgain(int id);
    void readTablesAgain();
    void taken(int id, ReadFile);
    void failed(int id, const QString& why);
    void choose(int id);
    void chooseOne(); ///< the first of the list, if the chosen one is gone
    void skip(int id);
    void showAll(); ///< list, details and buttons
    void showButtons();
    void applyToAll();
    void import();
    void imported(const Imported&);
    static Imported importAll(const Project&, std::vector<ImportEntry>, const Progress&);

    std::function<Project()> m_project;
    std::vector<ImportEntry> m_entries;
    int m_lastId = 0, m_current = 0, m_readingId = 0;
    Shown m_shown;
    bool m_chosenByHand = false; ///< the list is in use
    ImportList* m_list;
    ImportDetails* m_details;
    QLabel* m_words;
    QPushButton *m_import, *m_skip, *m_cancel;
    Background<ReadFile> m_reading;
    Background<Imported> m_importing; // last: they use the above
};

} // namespace fox::app
