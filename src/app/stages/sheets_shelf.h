#pragma once
#include "stages/shelf.h"

namespace fox::app {

/// The sheet that is looked at: what it is filled with, the settings of what is chosen on its page, and what can be written of
/// it. Templates to choose from.
class SheetsShelf : public Shelf {
    Q_OBJECT
public:
    SheetsShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {ProductKind::ImportedTables}; } // headings that texts can have values of

protected:
    void fillBody() override;
    void fillCard() override;

private:
    void sheetRows(const ReportEntry&);
    void itemRows();
    void templateRows();
    void holeLayoutRows(const ReportEntry&);
    void outputCard();
    void elementCard(const SheetElement&, std::size_t at);
    void tableCard(const SheetElement&, std::size_t at);
    void chartCard(const SheetElement&, std::size_t at);
    void whatCard(const SheetElement&, std::size_t at, const std::vector<std::pair<std::string, std::string>>& all,
                  const char* objectName);
    void scaleCard(const SheetTemplate&);
    void metresRow(const SheetTemplate&);
    void frameCard(const SheetTemplate&);
    void areaRows(const SheetTemplate&);
    void textCard(const SheetElement&, std::size_t at);
    void columnCard();
    void saveButton(const QString& words, const char* objectName, const SaveSheets&, const QString& tip = {});
    void changeSheetItems(bool all, const std::vector<std::string>& items);
    void changeLayoutBy(const std::function<void(SheetTemplate&)>&, const std::string& words);
    void changeElement(std::size_t at, const std::function<void(SheetElement&)>&, const std::string& words);
};

} // namespace fox::app
