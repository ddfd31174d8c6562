#pragma once
#include "model/hole_prediction.h"
#include "paper/drawing.h"

namespace fox {

/// Found levels of bases against those that were predicted, each in its unit's colour with a bar of 80 % (1.28 standard
/// deviations), about the line on which they are equal. Layers "frame", "equal", "bars", "values" (by hole).
paper::Drawing drawPredictionPlot(const std::vector<HolePrediction>&, const Sequence&, double width, double height);

/// The same on a page of A4 with a title, what was compared, and a table of the units.
paper::Drawing predictionReport(const std::vector<HolePrediction>&, const Sequence&, const std::string& project,
                                const std::string& holes);

} // namespace fox
