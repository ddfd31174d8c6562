#include "shell/layer_actions.h"

#include "base/errors.h"
#include "handover/mesh_files.h"
#include "project/layer_edits.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/sheet_choice.h"

#include <QDir>
#include <QFileDialog>
#include <QSettings>

namespace fox::app {

namespace {

LayerFileWords wordsOf(const Project& project, const std::string& specification, const Findings& findings) {
    LayerFileWords words{project.name, project.site->crs, {}, specification, today().toStdString(), findings};
    for (const auto& u : project.sequence->units) words.units.push_back(u.code);
    return words;
}

} // namespace

LayerActions::LayerActions(Workspace& workspace, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_work(this, tr("Writing layers and meshes")) {}

QString LayerActions::askFolder(const std::string& name) {
    const auto folder =
        QFileDialog::getExistingDirectory(m_workspace.dialogParent(), tr("Folder for the files of %1").arg(qt(name)),
                                          QSettings().value("folderOf/layers", QDir::homePath()).toString());
    if (!folder.isEmpty()) QSettings().setValue("folderOf/layers", folder);
    return folder;
}

void LayerActions::askWriteGrid(const std::string& grid) {
    if (const auto folder = askFolder(grid); !folder.isEmpty()) writeGrid(grid, folder);
}

void LayerActions::askWriteMesh(const std::string& mesh) {
    if (const auto folder = askFolder(mesh); !folder.isEmpty()) writeMesh(mesh, folder);
}

template <typename Product, typename Prepare>
void LayerActions::write(ProductKind kind, std::vector<std::shared_ptr<const Product>> ProductSet::*part, const std::string& name,
                         const QString& folder, Prepare prepare) {
    m_isWaiting = true;
    m_workspace.session().ask({kind}, [=, this](const ProductsPtr& products) {
        m_isWaiting = false;
        if (!products) return m_workspace.refuse(tr("Nothing was written: the work was stopped."));
        const auto& all = (*products).*part;
        const auto at = std::ranges::find_if(all, [&](const auto& one) { return one->spec.name == name; });
        if (at == all.end()) return m_workspace.refuse(tr("The project does not have %1.").arg(qt(name)));
        if (!(*at)->problem.empty()) return m_workspace.refuse(qt((*at)->problem));
        m_workspace.say(tr("Writing %1…").arg(qt(name)));
        m_work.start(
            [products, prepare, made = *at, to = std::filesystem::path(folder.toStdString())](const Progress& progress) {
                const auto words = wordsOf(products->project, toJson(made->spec), made->findings);
                return std::make_shared<ReplaceFiles>(prepare(*made, words, to, progress));
            },
            [this, kind, folder](const std::shared_ptr<ReplaceFiles>& files) {
                finish(files, folder, kind == ProductKind::Layers);
            },
            [this](const QString& why) { m_workspace.refuse(why); });
    });
}

void LayerActions::writeGrid(const std::string& grid, const QString& folder) {
    write(ProductKind::Layers, &ProductSet::layers, grid, folder,
          [](const LayerProduct& made, const LayerFileWords& words, const std::filesystem::path& to, const Progress& progress) {
              return prepareLayerFiles(*made.grid, words, to, progress);
          });
}

void LayerActions::writeMesh(const std::string& mesh, const QString& folder) {
    write(ProductKind::Meshes, &ProductSet::meshes, mesh, folder,
          [](const MeshProduct& made, const LayerFileWords& words, const std::filesystem::path& to, const Progress& progress) {
              return prepareMeshFiles(*made.mesh, made.spec.origin, words, to, progress);
          });
}

void LayerActions::finish(const std::shared_ptr<ReplaceFiles>& files, const QString& folder, bool layers) {
    const auto targets = files->targets();
    if (!mayReplace(targets, m_workspace.dialogParent()))
        return m_workspace.say(tr("Nothing was written, nothing was replaced."));
    try {
        if (layers)
            commitLayerFiles(*files, folder.toStdString());
        else
            files->commit();
        m_workspace.say(tr("%1 written to %2.").arg(counted(qint64(targets.size()), "file"), QDir::toNativeSeparators(folder)));
    } catch (const Error& e) {
        m_workspace.refuse(qt(e.what()));
    }
}

void LayerActions::askFiles() {
    addFiles(QFileDialog::getOpenFileNames(m_workspace.dialogParent(), tr("Specifications of layered grids and meshes"),
                                           QSettings().value("folderOf/layers", QDir::homePath()).toString(),
                                           tr("Specifications (*.json)")));
}

void LayerActions::addFiles(const QStringList& paths) {
    for (const auto& path : paths) {
        const std::filesystem::path file = path.toStdString();
        try {
            const auto text = readBytes(file);
            const bool isMesh = text.find("\"fox-cellar-mesh\"") != std::string::npos;
            auto look = m_workspace.selection().layerLook();
            if (isMesh) {
                auto spec = meshSpecOf(text, file.parent_path());
                if (spec.name.empty()) spec.name = file.stem().string();
                look.mesh = spec.name;
                m_workspace.session().apply([spec](const Project& p) { return addMesh(p, spec); });
            } else {
                auto spec = layerSpecOf(text, file.parent_path());
                if (spec.name.empty()) spec.name = file.stem().string();
                look.grid = spec.name, look.mesh.clear();
                m_workspace.session().apply([spec](const Project& p) { return addLayeredGrid(p, spec); });
            }
            m_workspace.selection().setLayerLook(look);
        } catch (const Error& e) {
            m_workspace.refuse(tr("%1: %2").arg(QFileInfo(path).fileName(), qt(e.what())));
        }
    }
}

} // namespace fox::app
