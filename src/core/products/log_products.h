#pragma once
#include "products/making.h"

namespace fox {

/// What checkHoles says.
std::shared_ptr<const Findings> holeFindings(const Making&);
/// The logs read as the sequence and the geologist's choices have it.
std::shared_ptr<const InterpretedLogs> interpretedLogs(const Making&);
/// Contact points as contacts.
std::shared_ptr<const PlacedContacts> contactPoints(const Making&);
/// What bases are fitted to, see rawContactsOf(); as contacts() below.
std::vector<std::shared_ptr<const std::vector<Contact>>> rawContacts(const Making&);
/// Contacts of each unit but the oldest; a unit whose contacts an edit did not touch keeps its pointer.
std::vector<std::shared_ptr<const std::vector<Contact>>> contacts(const Making&);

} // namespace fox
