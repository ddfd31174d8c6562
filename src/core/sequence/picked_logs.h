#pragma once
#include "sequence/contacts.h"

namespace fox {

/// The logs as they are drawn beside one another: a hole without a log, known by its curves, has what its picks say, each unit
/// from the pick above, or from the top of the hole, down to its own. What lies between two picks that are not of neighbouring
/// units counts to the lower one; picks out of the sequence's order, or of no unit of it, are passed over. Nothing is known below
/// the last pick. Surfaces and the audit take no notice of it: to them a pick is one contact.
InterpretedLogs withPicks(InterpretedLogs, const Sequence&, const Interpretation&);

} // namespace fox
