#pragma once
#include "importing/import.h"

#include <QDialog>

class QTreeWidget;

namespace fox::app {

/// A file that is in the project: what it holds, where it came from, and the ways to read it again, to a newer issue of it, and
/// to its removal.
class SourceSheet : public QDialog {
    Q_OBJECT
public:
    SourceSheet(const Project&, const std::shared_ptr<const AgsFile>& parsed, const QString& file, QWidget* parent);

signals:
    void editMade(const fox::Edit&);
    void readAgainAsked(const QString& file);
    void newerAsked(const QString& path);
    void tableAsked(const QString& key);

private:
    void build(const SourceFile&, bool isGround);
    void askNewer(const QString& path);

    QString m_name;
    QTreeWidget* m_groups;
};

} // namespace fox::app
