#pragma once
#include "paper/sheet_template.h"

#include <QString>

namespace fox::app {

/// Templates that the user keeps for all projects: files in a folder of the user's data, one each.
std::vector<SheetTemplate> keptTemplates();
/// In place of one of the same name. @throws Error
void keepTemplate(const SheetTemplate&);
bool isKept(const SheetTemplate&); ///< one of that name is
void dropTemplate(const std::string& name);
QString keptTemplatesFolder();

} // namespace fox::app
