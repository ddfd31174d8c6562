#include "shell/block_actions.h"

#include "base/errors.h"
#include "blocks/block_totals.h"
#include "handover/block_files.h"
#include "handover/excavation_files.h"
#include "project/block_edits.h"
#include "style/words.h"
#include "views/ask_file.h"

#include <QDir>
#include <QFileDialog>
#include <QSettings>

namespace fox::app {

namespace {

template <typename Product>
const Product& named(const std::vector<std::shared_ptr<const Product>>& all, const std::string& name) {
    const auto at = std::ranges::find_if(all, [&](const auto& one) { return one->spec.name == name; });
    if (at == all.end()) throw Error(QObject::tr("The project does not have %1.").arg(qt(name)).toStdString());
    if (!(*at)->problem.empty()) throw Error((*at)->problem);
    return **at;
}

} // namespace

BlockActions::BlockActions(Workspace& workspace, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_work(this, tr("Writing blocks and excavations")) {}

void BlockActions::askWriteBlocks(const std::string& model) {
    const auto path =
        askSaveFile(m_workspace.dialogParent(), tr("Blocks of %1").arg(qt(model)), "blocks", qt(model) + ".vtu",
                    tr("VTU cells (*.vtu);;CSV table (*.csv);;NetCDF (*.nc);;Slices by level as GeoTIFF (*.tif)"), "vtu");
    if (!path.isEmpty()) writeBlocks(model, path);
}

void BlockActions::askWriteTable(const std::string& model) {
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("Table of %1 by unit and level").arg(qt(model)), "blocks",
                                  qt(model) + tr(" by unit and level.csv"), tr("CSV table (*.csv)"), "csv");
    if (!path.isEmpty()) writeTable(model, path);
}

void BlockActions::askWriteExcavation(const std::string& excavation) {
    const auto folder =
        QFileDialog::getExistingDirectory(m_workspace.dialogParent(), tr("Folder for the files of %1").arg(qt(excavation)),
                                          QSettings().value("folderOf/blocks", QDir::homePath()).toString());
    if (folder.isEmpty()) return;
    QSettings().setValue("folderOf/blocks", folder);
    writeExcavation(excavation, folder);
}

void BlockActions::write(ProductKind kind, const Prepare& prepare, bool askToReplace) {
    m_isWaiting = true;
    m_workspace.session().ask({kind}, [=, this](const ProductsPtr& products) {
        m_isWaiting = false;
        if (!products) return m_workspace.refuse(tr("Nothing was written: the work was stopped."));
        m_workspace.say(tr("Writing…"));
        m_work.start([products, prepare](const Progress&) { return prepare(*products); },
                     [this, askToReplace](const std::shared_ptr<ReplaceFiles>& files) {
                         const auto targets = files->targets();
                         if (askToReplace && !mayReplace(targets, m_workspace.dialogParent()))
                             return m_workspace.say(tr("Nothing was written, nothing was replaced."));
                         try {
                             files->commit();
                             m_workspace.say(tr("%1 written to %2.")
                                                 .arg(counted(qint64(targets.size()), "file"),
                                                      QDir::toNativeSeparators(qt(targets.front().parent_path().string()))));
                         } catch (const Error& e) {
                             m_workspace.refuse(qt(e.what()));
                         }
                     },
                     [this](const QString& why) { m_workspace.refuse(why); });
    });
}

void BlockActions::makeUpToDate(const std::string& model) {
    const auto products = m_workspace.session().products();
    if (products && std::ranges::any_of(products->blocks, [&](const auto& b) { return b->outOfDate && b->spec.name == model; }))
        m_workspace.session().makeBlocksAgain({model});
}

void BlockActions::writeTable(const std::string& model, const QString& path) {
    makeUpToDate(model);
    write(
        ProductKind::Blocks,
        [model, to = std::filesystem::path(path.toStdString()),
         limits = m_workspace.selection().blockLook().limits()](const ProductSet& set) {
            auto files = std::make_shared<ReplaceFiles>();
            files->add(to, [&](const auto& scratch) {
                writeBytes(scratch, totalsCsv(*named(set.blocks, model).blocks, *set.project.sequence, limits));
            });
            return files;
        },
        false);
}

void BlockActions::writeBlocks(const std::string& model, const QString& path) {
    makeUpToDate(model);
    write(
        ProductKind::Blocks,
        [model, to = std::filesystem::path(path.toStdString())](const ProductSet& set) {
            return std::make_shared<ReplaceFiles>(
                prepareBlockFile(*named(set.blocks, model).blocks, *set.project.sequence, set.project.site->crs, to));
        },
        false); // the question was asked with the name
}

void BlockActions::writeExcavation(const std::string& excavation, const QString& folder) {
    write(
        ProductKind::Excavations,
        [excavation, to = std::filesystem::path(folder.toStdString())](const ProductSet& set) {
            return std::make_shared<ReplaceFiles>(
                prepareExcavationFiles(*named(set.excavations, excavation).dig, set.project.site->crs, to));
        },
        true);
}

void BlockActions::askFiles() {
    addFiles(QFileDialog::getOpenFileNames(m_workspace.dialogParent(), tr("Specifications of block models and excavations"),
                                           QSettings().value("folderOf/blocks", QDir::homePath()).toString(),
                                           tr("Specifications (*.json)")));
}

void BlockActions::addFiles(const QStringList& paths) {
    for (const auto& path : paths) {
        const std::filesystem::path file = path.toStdString();
        try {
            const auto text = readBytes(file);
            auto look = m_workspace.selection().blockLook();
            if (text.find("\"fox-cellar-excavation\"") != std::string::npos) {
                auto spec = excavationSpecOf(text, file.parent_path());
                if (spec.name.empty()) spec.name = file.stem().string();
                look.excavation = spec.name;
                m_workspace.session().apply([spec](const Project& p) { return addExcavation(p, spec); });
            } else {
                auto spec = blockSpecOf(text, file.parent_path());
                if (spec.name.empty()) spec.name = file.stem().string();
                look.model = spec.name, look.showAll();
                m_workspace.session().apply([spec](const Project& p) { return addBlockModel(p, spec); });
            }
            m_workspace.selection().setBlockLook(look);
        } catch (const Error& e) {
            m_workspace.refuse(tr("%1: %2").arg(QFileInfo(path).fileName(), qt(e.what())));
        }
    }
}

} // namespace fox::app
