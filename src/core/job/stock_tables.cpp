#include "core/job/table_parts.h"

namespace burin {
namespace {

constexpr double mostM = 1e6;
constexpr int highestMark = 9999;

std::vector<Field> colourFields() {
    using T = JacketColour;
    return fieldsOf<T>(textField("kindId", &T::kindId), textField("colour", &T::colour));
}

} // namespace

std::vector<Field> pullRuleFields() {
    using T = PullRules;
    return fieldsOf<T>(
        wordField("marking", &T::marking, markingSchoolWords),
        wholeField("atOnce", &T::atOnce, 1, 100), numberField("newBoxM", &T::newBoxM, 1, mostM),
        numberField("scrapM", &T::scrapM, 0, 1000), numberField("cutM", &T::cutM, 0, 100),
        numberField("dragN", &T::dragN, 0, 1000), wholeField("crew", &T::crew, 1, 1000),
        numberField("hoursADay", &T::hoursADay, 0.5, 24), dateField("startsOn", &T::startsOn),
        objectsField("colours", &T::colours, colourFields()));
}

std::vector<Field> pieceFields() {
    using T = PulledPiece;
    return fieldsOf<T>(textField("boxId", &T::boxId).refers("box", Gone::Refuse).since(7).leftOut(),
                       wholeField("startMark", &T::startMark, 0, highestMark).since(7),
                       wholeField("endMark", &T::endMark, 0, highestMark).since(7),
                       numberField("cutM", &T::cutM, 0, 1000).since(7),
                       dateField("pulledOn", &T::pulledOn).since(7),
                       dateField("tonedOn", &T::tonedOn).since(9));
}

std::vector<Field> boxFields() {
    using T = Box;
    return fieldsOf<T>(
        textField("id", &T::id), textField("name", &T::name), textField("cableId", &T::cableId),
        wordField("kind", &T::kind, boxKindWords), textField("colour", &T::colour).leftOut(),
        numberField("heldM", &T::heldM, 0, mostM),
        wordField("markUnit", &T::markUnit, markUnitWords),
        numberField("spacing", &T::spacing, 0.1, 100), flagField("countsUp", &T::countsUp),
        wholeField("freeMark", &T::freeMark, 0, highestMark), flagField("gone", &T::gone).leftOut(),
        orderField(&T::order), textField("note", &T::note).longest(longestNote).leftOut());
}

std::vector<Field> pullFields() {
    using T = Pull;
    return fieldsOf<T>(textField("id", &T::id), orderField(&T::order),
                       wordField("boxesAt", &T::boxesAt, boxesAtWords).leftOut(),
                       wordField("grip", &T::grip, gripWords).leftOut(),
                       flagField("lubricated", &T::lubricated).leftOut(), dateField("day", &T::day),
                       textField("note", &T::note).longest(longestNote).leftOut());
}

} // namespace burin
