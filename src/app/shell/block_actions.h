#pragma once
#include "base/files.h"
#include "shell/workspace.h"
#include "views/background.h"

namespace fox::app {

/// What the part "Blocks" asks for: files of block models and excavations, specifications from files.
class BlockActions : public QObject {
    Q_OBJECT
public:
    BlockActions(Workspace&, QObject* parent);
    void askWriteBlocks(const std::string& model);
    void askWriteTable(const std::string& model);
    void askWriteExcavation(const std::string& excavation);
    void writeBlocks(const std::string& model, const QString& path);
    void writeTable(const std::string& model, const QString& path); ///< of the blocks that are shown
    void writeExcavation(const std::string& excavation, const QString& folder);
    void askFiles();
    void addFiles(const QStringList& paths);
    bool settled() const { return !m_isWaiting && !m_work.busy(); }

private:
    using Prepare = std::function<std::shared_ptr<ReplaceFiles>(const ProductSet&)>;
    /// Makes files beside the window; what can't be made is said.
    void write(ProductKind, const Prepare&, bool askToReplace);
    void makeUpToDate(const std::string& model); ///< if its blocks were left out of date

    Workspace& m_workspace;
    bool m_isWaiting = false;                         ///< for products
    Background<std::shared_ptr<ReplaceFiles>> m_work; // last: it uses the above
};

} // namespace fox::app
