#pragma once
#include "project/edits.h"

namespace fox {

// Edits of contacts that are in no log. All throw Error if what they speak of is not there.

/// Whether a file's contacts are used for surfaces.
Edited setContactsUsed(const Project&, const std::string& file, bool used);
/// Whether they lie on the base or on the top of their units.
Edited setContactsSurface(const Project&, const std::string& file, ContactSurface);
/// Standard deviation of their levels, metres; 0: surfaces go through them. @throws Error if it is negative
Edited setContactsAccuracy(const Project&, const std::string& file, double metres);
/// Points like this one, whether they are excluded or not, are excluded from surfaces or used again.
Edited setContactExcluded(const Project&, const std::string& file, const ContactPoint&, bool excluded);

} // namespace fox
