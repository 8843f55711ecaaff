#pragma once
#include "core/edit/edit.h"
#include "core/units/units.h"

/// How a field of what is kept is shown to be typed over, and what a typed text makes of it: told
/// by the field's description and by the unit its name ends in, "lengthM", "boreMm",
/// "temperatureC"; "takenOn" is a day.
namespace burin {

/// How a screen shows a number that is kept in other units, or rounds it.
struct TypedAs {
    double scale = 1; ///< shown is kept times this: 1000 for A in mA
    int places = 2;   ///< of a length
};

/// The description of what a field's name leads to: of "survey.rackM" that of rackM. nullptr: there
/// is no such field.
const Field* typedField(Kind kind, std::string_view name);

/// What stands in the field to be typed over: "3.50 m", "31 °C", "12 mm", "20", a text; of a list
/// of texts "left, right". Empty: nothing, or what no one types (points, rows).
std::string typedText(const Field& field, const Json& value, UnitSystem system,
                      const TypedAs& as = {});
/// What was typed as the field keeps it; null is nothing, its default. Refused: no such number, out
/// of the field's range, nothing where something must stand. `called` is what the screen calls it.
Outcome<Json> readTyped(const Field& field, std::string_view text, UnitSystem system,
                        const std::string& called, const TypedAs& as = {});

/// A figure in the unit that its field is called by: "lengthM", "accuracy.lossDb"; of none where
/// it is called by none, or is money.
Quantity fieldFigure(std::string_view field, double value);
/// A field in words, by its key: "survey.rackM" is "rack", "supplyToleranceShare" "supply
/// tolerance". Titles of edits are kept with the job, and so not in the language of a screen.
std::string fieldWords(std::string_view field);
/// The edit that sets a field of rows of one kind; without changes where all of them have that
/// value already. Rows that are not there are left out.
Edit setField(const Job& job, Kind kind, const std::vector<std::string>& ids,
              const std::string& field, const Json& value);

} // namespace burin
