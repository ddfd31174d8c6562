#pragma once
#include "stages/shelf.h"

namespace fox::app {

/// The Holes stage: sources, logged codes, what was changed; the selected hole's card, edited in place.
class HolesShelf : public Shelf {
    Q_OBJECT
public:
    HolesShelf(Selection*, QWidget* parent);

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void fillCodes();
    void fillValuePoints();
    void fillWater();
    void cardSoundings(const std::string& name, const Hole&);
    void cardName(const std::string& name, const Hole&);
    static bool hasCurves(const Hole&);
    void cardEdit(const QString& name, const char* objectName, const QString& value, const QString& remark,
                  const std::function<Edit(double)>& edit);
    QString stopsIn() const;
};

} // namespace fox::app
