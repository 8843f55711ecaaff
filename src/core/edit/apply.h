#pragma once
#include "core/edit/edit.h"
#include "core/edit/standing.h"

namespace burin {

/// What was done to a job.
struct Applied {
    Touched touched; ///< the rows as they were before
    Changes done;    ///< with every value as the job writes it, whatever way it was given
};

/// Does the edit, or leaves the job as it was. Refused: a
/// `before` that is not what the job holds, a value that its field does not take, a row of no known
/// kind or of an id twice; and what cannot stand, where this edit brings it about: a label that is
/// empty, a reference to nothing, a clash. What stands so already is no reason.
/// Time is linear in the edit, with a scan of the job for what is added, renamed or removed.
Outcome<Applied> applyTo(Job& job, const Edit& edit, Clashes clashes = Clashes::Refused);
/// Makes a job again what it was before `touched`.
void restore(Job& job, Touched touched);
/// Does the changes without asking what was there before, as far as their rows are there, and
/// checks nothing but the values: for what follows the pointer.
Outcome<Applied> overwrite(Job& job, const Changes& changes);

} // namespace burin
