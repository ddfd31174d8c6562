#pragma once
#include "sheets/sheet_values.h"

#include <QTextEdit>
#include <QTextObjectInterface>

namespace fox::app {

/// A text into which values are put: each stands as a small chip with its words, which is typed over, deleted and copied like a
/// letter. No codes are typed.
class ValueText : public QTextEdit, public QTextObjectInterface {
    Q_OBJECT
    Q_INTERFACES(QTextObjectInterface)
public:
    /// `values`: what can be put in.
    ValueText(const TextRuns&, std::vector<SheetValue> values, QWidget* parent = nullptr);
    TextRuns runs() const;
    void insertValue(const std::string& key);
    /// The values to choose from, in groups; the chosen one is put in at the cursor.
    void chooseValue(QPoint globalAt);

    QSizeF intrinsicSize(QTextDocument*, int at, const QTextFormat&) override;
    void drawObject(QPainter*, const QRectF&, QTextDocument*, int at, const QTextFormat&) override;

signals:
    void committed(); ///< the focus has gone elsewhere, or Ctrl+Enter was pressed

protected:
    void focusOutEvent(QFocusEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void insertChip(const std::string& key, const std::string& none);
    QString wordsOf(const QString& key) const;

    std::vector<SheetValue> m_values;
};

} // namespace fox::app
