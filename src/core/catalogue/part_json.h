#pragma once
#include "core/catalogue/catalogue.h"
#include "core/describe/json_reader.h"
#include <map>

/// What the readers of the catalogue's files share.
namespace burin {

/// Sources of a file by their short name; nullptr where a figure's source is a sentence itself (a
/// user's cable).
using FigureSources = std::map<std::string, std::string>;

/// `{"value": 1.808, "source": "iec-61156"}`. Throws FaultThrown.
Figure figure(JsonObject& in, std::string_view key, double least, double most,
              const FigureSources* sources);
std::optional<Figure> optionalFigure(JsonObject& in, std::string_view key, double least,
                                     double most, const FigureSources* sources);
std::vector<double> ohms(JsonObject& in, std::string_view key);
std::optional<CableKind> cableKindFromKey(std::string_view key);
Cable readCable(JsonObject in, const FigureSources* sources);
ConnectorFit readConnectorFit(JsonObject in, const FigureSources& sources);

} // namespace burin
