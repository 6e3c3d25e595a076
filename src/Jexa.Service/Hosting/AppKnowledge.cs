using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>What an app file means, as it was compiled before a change.</summary>
/// <param name="compilation">Null if no change asks.</param>
internal sealed class AppKnowledge(Compilation? compilation) : IAppKnowledge
{
    public IReadOnlyList<string> KeyOf(string record)
    {
        if (compilation?.Definition?.Records.FirstOrDefault(one => one.Name.Value == record) is not { } definition)
            return [];
        if (definition.Key.Count > 0)
            return [.. definition.Key.Select(field => field.Value)];
        var source = compilation!.Sources.FirstOrDefault(source => source.Name == definition.Source.Value);
        return definition.Table is { } table ? source?.Description?.Schema.Find(table.Value)?.PrimaryKey ?? [] : [];
    }

    public string? FieldOf(string page, string parameter) =>
        compilation?.Site?.Find(page) is { Record: not null } found
        && found.Parameters.FirstOrDefault(one => one.Name == parameter) is { } known
        && found.Record.QueryParameters.All(own => own.Name != parameter)
            ? known.Path?.Name ?? known.Field.Name
            : null;
}
