namespace Jexa.Core.Definitions;

internal readonly record struct MappingEntry(Node Key, Node Value);
