#pragma once
#include "core/edit/edit.h"

namespace burin {

/// Reads an edit as people and scripts write it, and makes the edit of a job of it:
///
///     {"title": …, "changes": [
///         {"op": "set", "kind": "run", "id": ID, "field": "note", "value": …},
///         {"op": "add", "kind": "run", "value": {…}},
///         {"op": "remove", "kind": "run", "id": ID}]}
///
/// A run may be named by "label" in place of "id", also one that a change before it added. Without
/// "value" a field is left out; with "before" it must hold that. A row that is added may have the
/// rows it owns among its keys, and gets an id and a place where it has none. What is removed takes
/// along what `removing` says. Refused with the number of the change: a row or field that is not
/// there, and whatever `apply` refuses of one change.
Outcome<Edit> readRequest(const Json& json, const Job& job, const std::string& where);

} // namespace burin
