#include "shell/layer_actions.h"

#include "base/errors.h"
#include "dialogs/cell_groups_sheet.h"
#include "dialogs/typed_value_dialog.h"
#include "handover/mesh_files.h"
#include "project/layer_edits.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/layer_values.h"
#include "views/number_box.h"
#include "views/plan_view.h"
#include "views/sheet_choice.h"

#include <QDir>
#include <QFileDialog>
#include <QInputDialog>
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
    : QObject(parent),
      m_workspace(workspace),
      m_work(this, tr("Writing layers and meshes")),
      m_where(this, tr("What lies in cells")) {
    connect(&workspace.session(), &Session::productsChanged, this, [this] {
        if (m_groups) m_groups->setProducts(m_workspace.session().products());
    });
}

void LayerActions::askTyped(const Polygon2& around) {
    const auto products = m_workspace.session().products();
    const auto& look = m_workspace.selection().layerLook();
    const auto* made = shownLayers(products.get(), look);
    if (!made || !made->grid || around.empty())
        return m_workspace.refuse(tr("The project has no layered grid whose cells could get values."));
    auto ring = around;
    if (const auto p = around.front(); around.size() < 3) { // the cell that holds it
        constexpr double kHalf = 0.005;
        ring = {{p.x - kHalf, p.y - kHalf}, {p.x + kHalf, p.y - kHalf}, {p.x, p.y + kHalf}};
    }
    TypedValueDialog dialog(*made->grid, look, std::move(ring), m_workspace.dialogParent());
    if (dialog.exec() != QDialog::Accepted) return;
    m_workspace.session().apply([name = made->spec.name, typed = dialog.typed()](const Project& p) {
        return changeLayeredGrid(
            p, name, [&](LayerSpec& s) { s.typed.push_back(typed); }, "type a value on cells");
    });
}

CellGroupsSheet* LayerActions::groups() const { return m_groups; }

void LayerActions::openGroups() {
    m_workspace.session().ask({ProductKind::Layers}, [this](const ProductsPtr& products) {
        if (!products) return;
        if (!m_groups) {
            m_groups = new CellGroupsSheet(&m_workspace.selection(), m_workspace.dialogParent());
            m_groups->setAttribute(Qt::WA_DeleteOnClose);
            connect(m_groups, &CellGroupsSheet::editMade, &m_workspace.session(), &Session::apply);
            connect(m_groups, &CellGroupsSheet::placeShown, this, [this](Point2 at) {
                if (auto* plan = m_workspace.planInSight()) plan->showPlace(at);
            });
        }
        m_groups->setProducts(products);
        m_groups->show();
        m_groups->raise();
    });
}

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

void LayerActions::askWhere() {
    const auto from = QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Places, cells or a mesh"),
                                                   QSettings().value("folderOf/layers", QDir::homePath()).toString(),
                                                   tr("Places and meshes (*.csv *.txt *.xyz *.vtu *.nc);;All files (*)"));
    if (from.isEmpty()) return;
    const QFileInfo file(from);
    const auto ending = file.suffix();
    const auto to = askSaveFile(m_workspace.dialogParent(), tr("The same with unit and values"), "layers",
                                file.completeBaseName() + "_units." + ending, tr("The same form (*.%1)").arg(ending),
                                ending.toUtf8().constData());
    if (!to.isEmpty()) where(from, to);
}

void LayerActions::where(const QString& from, const QString& to, Point2 origin) {
    m_isWaiting = true;
    m_workspace.session().ask({}, [=, this](const ProductsPtr& products) {
        m_isWaiting = false;
        if (!products) return m_workspace.refuse(tr("Nothing was written: the work was stopped."));
        m_where.start(
            [=](const Progress& progress) {
                WhereAnswer answer;
                auto files = std::make_shared<ReplaceFiles>(
                    prepareWhere(*products, from.toStdString(), to.toStdString(), answer, origin, progress));
                return std::pair(std::move(files), std::move(answer));
            },
            [=, this](const std::pair<std::shared_ptr<ReplaceFiles>, WhereAnswer>& made) {
                finishWhere(made.first, made.second, from, to);
            },
            [this](const QString& why) { m_workspace.refuse(why); });
    });
}

void LayerActions::finishWhere(const std::shared_ptr<ReplaceFiles>& files, const WhereAnswer& answer, const QString& from,
                               const QString& to) {
    if (answer.points > 0 && answer.outside == answer.points) {
        bool ok = false;
        const auto typed =
            QInputDialog::getText(m_workspace.dialogParent(), tr("None of its places lies in the extent"),
                                  tr("Coordinates of meshes often have an origin taken off. Which one? Easting, northing:"),
                                  QLineEdit::Normal, {}, &ok);
        const auto parts = typed.split(',');
        const auto east = typedNumber(parts.value(0)), north = typedNumber(parts.value(1));
        if (ok && east && north) return where(from, to, {*east, *north});
        return m_workspace.refuse(tr("None of the %1 of %2 lies in the extent. Nothing was written.")
                                      .arg(counted(qint64(answer.points), "place"), QFileInfo(from).fileName()));
    }
    try {
        files->commit();
    } catch (const Error& e) {
        return m_workspace.refuse(qt(e.what()));
    }
    auto words = tr("%1 written to %2.").arg(counted(qint64(answer.points), "place"), QDir::toNativeSeparators(to));
    if (answer.outside > 0) words += tr(" %1 outside the extent.").arg(answer.outside);
    if (!answer.findings.empty())
        words += tr(" %1: %2").arg(counted(qint64(answer.findings.size()), "finding"), qt(describe(answer.findings.front())));
    m_workspace.say(words);
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
