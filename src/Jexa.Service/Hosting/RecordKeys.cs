using Jexa.Core.Compiler;

namespace Jexa.Service.Hosting;

/// <summary>The keys of record kinds, as app file and source say them.</summary>
internal static class RecordKeys
{
    /// <summary>The fields of the key of a record kind. Empty if it has none, or if its source is away.</summary>
    public static IReadOnlyList<string> Of(Compilation compilation, string record)
    {
        if (compilation.Definition?.Records.FirstOrDefault(one => one.Name.Value == record) is not { } definition)
            return [];
        if (definition.Key.Count > 0)
            return [.. definition.Key.Select(field => field.Value)];
        var source = compilation.Sources.FirstOrDefault(source => source.Name == definition.Source.Value);
        return definition.Table is { } table ? source?.Description?.Schema.Find(table.Value)?.PrimaryKey ?? [] : [];
    }
}
