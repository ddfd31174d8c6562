#pragma once
#include "base/errors.h"
#include "products/products.h"
#include "project/hole_edits.h"

#include <QColor>
#include <QCoreApplication>
#include <QString>

namespace fox::app {

struct TableColumn {
    QString name;
    bool numeric = false;
    bool editable = false;
    QString tip;         ///< unit, meaning
    int width = 90;      ///< pixels
    bool hidden = false; ///< at first
};

/// What a table shows: rows and columns of one version of the project. Immutable, so that it can be sorted and filtered
/// beside the window.
class TableContent {
    Q_DECLARE_TR_FUNCTIONS(fox::app::TableContent)
public:
    virtual ~TableContent() = default;
    virtual QString name() const = 0; ///< "holes", "GEOL of phase1.ags"
    const std::vector<TableColumn>& columns() const { return m_columns; }
    virtual int rows() const = 0;
    virtual QString text(int row, int column) const = 0;                           ///< as it is shown
    virtual QString plain(int row, int column) const { return text(row, column); } ///< for spreadsheets and editing
    virtual std::optional<double> number(int row, int column) const = 0;           ///< of a numeric column; for sorting
    virtual QString tip(int, int) const { return {}; }
    virtual QColor colour(int, int) const { return {}; }           ///< of the text; invalid: as usual
    virtual const Unit* swatch(int, int) const { return nullptr; } ///< the unit whose fill and sign stand before the text
    virtual QString hole(int) const { return {}; }                 ///< the hole that a row is of
    /// A value that was typed into a cell.
    struct Typed {
        int row, column;
        QString text;
    };
    /// The edit that typed values make, of editable columns; any number of them are one step.
    virtual Edit edit(const std::vector<Typed>&) const {
        return [](const Project&) -> Edited { throw Error("This value can't be edited."); };
    }

protected:
    std::vector<TableColumn> m_columns;
};
using TableContentPtr = std::shared_ptr<const TableContent>;

/// The kinds of table that a project has, by a key that stays the same while it changes: "holes", "codes", "corrections",
/// "group:phase1.ags:GEOL".
struct TableKindName {
    QString key, words;
    bool separated = false; ///< a line above it in a menu
};
std::vector<TableKindName> tableKinds(const ProductSet&);
/// The content of that key; the holes' if there is none such.
TableContentPtr makeTableContent(const QString& key, std::shared_ptr<const ProductSet>);

/// Columns of the table of holes.
enum HoleColumn {
    HoleName,
    HoleKindColumn,
    HoleEasting,
    HoleNorthing,
    HoleLevelColumn,
    HoleFinalDepth,
    HoleIntervals,
    HoleTests,
    HoleProject,
    HoleSource,
    HoleProblem
};

} // namespace fox::app
