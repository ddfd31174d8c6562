#include "stages/plane_steps.h"

#include "views/number_box.h"

#include <QDialogButtonBox>
#include <QFormLayout>

namespace fox::app {

Point2 middleOfHoles(const ProductSet& products) {
    Box2 box;
    for (const auto& read : products.reading->holes)
        if (const auto path = HolePath::of(*read.hole)) box.include(path->at({}).plan());
    return box.empty() ? Point2() : box.centre();
}

PlaneAssignment firstPlane(const ProductSet& products, const std::string& code) {
    PlaneAssignment out;
    out.unit = code;
    const auto& sequence = *products.project.sequence;
    if (out.unit.empty() && !sequence.units.empty()) out.unit = sequence.units.front().code;
    const auto unit = sequence.index(out.unit);
    if (unit && *unit < products.contacts.size())
        if (const auto plane = planeOfContacts(*products.contacts[*unit])) {
            out.plane = *plane;
            return out;
        }
    std::vector<double> levels;
    for (const auto& read : products.reading->holes)
        if (const auto path = HolePath::of(*read.hole)) levels.push_back(path->at({}).z);
    if (levels.empty()) return out;
    std::ranges::nth_element(levels, levels.begin() + std::ptrdiff_t(levels.size() / 2));
    constexpr double kBelow = 2; // metres
    const auto middle = middleOfHoles(products);
    out.plane.through = {middle.x, middle.y, levels[levels.size() / 2] - kBelow};
    return out;
}

PlaneByNumbers::PlaneByNumbers(const Plane& plane, Point2 middle, QWidget* parent)
    : QDialog(parent),
      m_middle(middle),
      m_level(new NumberBox(this)),
      m_dip(new NumberBox(this)),
      m_direction(new NumberBox(this)) {
    setObjectName("planeByNumbers");
    setWindowTitle(tr("Plane by numbers"));
    const auto set = [](NumberBox* box, const char* name, double low, double high, int decimals, const QString& suffix,
                        double value) {
        box->setObjectName(name);
        box->setRange(low, high);
        box->setDecimals(decimals);
        box->setSuffix(suffix);
        box->setValue(value);
    };
    set(m_level, "planeLevel", -12000, 9000, 2, tr(" m"), plane.at(middle));
    set(m_dip, "planeDip", 0, 89, 2, tr("°"), plane.dip());
    set(m_direction, "planeDirection", 0, 359.9, 1, tr("°"), std::fmod(plane.strike() + 90, 360));
    m_direction->setToolTip(tr("Clockwise from north"));
    auto* form = new QFormLayout(this);
    form->addRow(tr("Level in the middle of the holes"), m_level);
    form->addRow(tr("Dip"), m_dip);
    form->addRow(tr("Direction it falls"), m_direction);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    form->addRow(buttons);
}

Plane PlaneByNumbers::plane() const {
    return planeOf(std::fmod(m_direction->value() + 270, 360), m_dip->value(), {m_middle.x, m_middle.y, m_level->value()});
}

} // namespace fox::app
