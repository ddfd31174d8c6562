#pragma once
#include "sequence/contacts.h"

namespace fox {

/// What the logs say of the bases before the rules of the stack, for each unit but the oldest, in the shape of contacts: Observed
/// (the raw base is at this point), NotReached (at or below it), Absent (at or above it), Gap. It is what bases are fitted to;
/// contactsOf() speaks of the bases after the rules. They differ where units onlap: of such a unit a boundary only
/// says that its raw base is at or below it, as an older unit may hold it up, and the boundary is the raw base of the next older
/// unit that cuts, or of the oldest one that is missing between the two, also where that unit is absent.
/// What the geologist chose, picks and contact points in holes stand as they are. A unit that no log has is passed over.
std::vector<std::vector<Contact>> rawContactsOf(const InterpretedLogs&, const Sequence&, const Interpretation& = {},
                                                const std::vector<std::vector<Contact>>& points = {});

} // namespace fox
