#pragma once
#include "products/products.h"
#include "views/selection.h"

#include <QWidget>

class QFormLayout;
class QLabel;
class QSlider;
class QVBoxLayout;

namespace fox::app {

class NumberBox;

/// Which blocks of a model are shown by their value, with a slider or typed, and what they come to. While a slider moves only its
/// figures change.
class CutOffPanel : public QWidget {
    Q_OBJECT
public:
    /// Of blocks that there are, with more than one value.
    CutOffPanel(std::shared_ptr<const BlockModel>, std::shared_ptr<const Sequence>, Selection*, QWidget* parent);
    void refresh(); ///< to what the selection has now

private:
    /// One end of what is shown: a slider and a field.
    struct End {
        QSlider* slider = nullptr;
        NumberBox* box = nullptr;
    };
    End addEnd(const QString& words, const char* name, std::optional<double> BlockLook::*limit, double otherwise);
    void showEnd(const End&, double value);
    QLabel* addFigure(const QString& words, const char* name);
    void showFigures();
    void change(const std::function<void(BlockLook&)>&);

    std::shared_ptr<const BlockModel> m_blocks;
    std::shared_ptr<const Sequence> m_sequence;
    Selection* m_selection;
    double m_low = 0, m_high = 1; ///< of the values
    QVBoxLayout* m_lines;
    QFormLayout* m_figures;
    End m_limit, m_upTo; ///< the second of Between alone
    QLabel *m_count, *m_volume, *m_mass, *m_byUnit, *m_range, *m_hint;
    bool m_showing = false; ///< values are set, not chosen
};

} // namespace fox::app
