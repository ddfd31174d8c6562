#pragma once
#include <string>

namespace fox {

/// The smallest of 2, 5, 10, 20, 50... (and 0.2, 0.5...) that is over `least`: a step between the labels of a scale.
/// Requires least > 0.
double labelStep(double least);
/// The n of the largest usual scale 1:n that is not larger than 1:least: 1, 1.25, 1.5, 2, 2.5, 3, 4, 5, 7.5 times a power of
/// ten. Requires least > 0.
double usualScale(double least);
/// The next usual scale that is larger than 1:n: 1:500 after 1:750. Requires n > 0.
double usualScaleBelow(double n);
/// "12", "0.5": as few digits as a step needs.
std::string labelWords(double value);

} // namespace fox
