#pragma once
#include <QLineEdit>
#include <functional>

class QStandardItemModel;
class QTimer;

namespace fox::app {

/// Finds any hole, unit, file or action by a few letters (Ctrl+K).
class FindBox : public QLineEdit {
    Q_OBJECT
public:
    struct Entry {
        QString words; ///< "QB114", "Till (TL), unit", "Import…, action"
        std::function<void()> go;
    };
    explicit FindBox(QWidget* parent = nullptr);
    void setEntries(std::vector<Entry>);

private:
    void take(const QString& words);

    std::vector<Entry> m_entries;
    QStandardItemModel* m_model;
    QTimer* m_going; ///< runs m_go, once however often it was asked for: a completer and the field may both say Enter
    std::function<void()> m_go;
};

} // namespace fox::app
