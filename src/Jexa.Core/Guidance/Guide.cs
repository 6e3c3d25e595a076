using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Guidance;

/// <summary>
/// Knows what can stand where in an app file: from the file itself and from its sources. The console's forms and editors ask it.
/// </summary>
/// <param name="file">What the text means, as it is now.</param>
/// <param name="compilation">The same text or an earlier one, compiled.</param>
public sealed class Guide(FileValue file, Compilation compilation)
{
    /// <summary>The names that can stand as a value at a place.</summary>
    public IReadOnlyList<Choice> ValuesAt(IReadOnlyList<string> place) =>
        NamePlace.OfValue(file, place) is { } name ? Names(name) : [];

    /// <summary>The names that can be keys of the mapping at a place.</summary>
    public IReadOnlyList<Choice> KeysAt(IReadOnlyList<string> place) =>
        NamePlace.OfKeys(file, place) is { } name ? Names(name) : [];

    /// <summary>All names of a kind.</summary>
    public IReadOnlyList<Choice> Names(NamePlace name) =>
        name.Kind switch
        {
            NameKind.Page => Pages(),
            NameKind.Record => Records(),
            NameKind.Source => [.. compilation.Sources.Select(source => new Choice(source.Name, source.Engine))],
            NameKind.Table => Tables(),
            NameKind.Field => Fields(name.Owner),
            NameKind.Parameter => Parameters(name.Owner),
            _ => throw new ArgumentOutOfRangeException(nameof(name)),
        };

    private List<Choice> Pages()
    {
        var known = compilation.Definition?.Pages.Select(page => new Choice(page.Name.Value, page.Path.Value)) ?? [];
        return [.. known.Concat(Keys("pages").Select(page => new Choice(page, ""))).DistinctBy(page => page.Text)];
    }

    private List<Choice> Records() =>
        [
            .. Keys("records")
                .Select(record => new Choice(record, NamePlace.TextAt(file, ["records", record, "from"]) ?? "a query")),
        ];

    private IEnumerable<string> Keys(string part) =>
        file is FileValue.Map map && map.Entries.FirstOrDefault(entry => entry.Key == part).Value is FileValue.Map entries
            ? entries.Entries.Select(entry => entry.Key)
            : [];

    private List<Choice> Tables() =>
        [
            .. compilation.Sources.SelectMany(source =>
                (source.Description?.Schema.Tables ?? []).Select(table => new Choice(
                    $"{source.Name}.{table.Name}",
                    $"{table.Kind.ToString().ToLowerInvariant()}, {table.Columns.Count} columns"
                ))
            ),
        ];

    /// <summary>The fields of a record kind, then those of the records that its foreign keys lead to.</summary>
    private IReadOnlyList<Choice> Fields(string record)
    {
        if (KindOf(record) is not { } kind)
            return Columns(record);
        var own = kind.Fields.Where(field => !field.Secret).Select(field => new Choice(field.Name, Told(field)));
        var far = compilation.Partial is not { } site
            ? []
            : new RecordGraph(site.Kinds)
                .Steps(kind)
                .Where(step => step.Key.Columns.Count == 1)
                .SelectMany(step =>
                    step.Other.Fields.Where(field => !field.Secret)
                        .Select(field => new Choice(
                            $"{step.Key.Columns[0]}.{field.Name}",
                            $"{Told(field)}, of the {step.Other.One}"
                        ))
                );
        return [.. own.Concat(far)];
    }

    /// <summary>The columns of a record's table, if the record could not be compiled.</summary>
    private List<Choice> Columns(string record) =>
        NamePlace.TextAt(file, ["records", record, "from"]) is { } from
        && from.IndexOf('.') is > 0 and var dot
        && compilation.Sources.FirstOrDefault(source => source.Name == from[..dot])?.Description?.Schema.Find(from[(dot + 1)..])
            is { } table
            ? [.. table.Columns.Select(column => new Choice(column.Name, column.Type.Word()))]
            : [];

    private static string Told(SiteField field) => field.Label is { } label ? $"{field.Type.Word()}, {label}" : field.Type.Word();

    private IReadOnlyList<Choice> Parameters(string page) =>
        compilation.Partial?.Find(page) is { } found
            ? [.. found.Parameters.Select(parameter => new Choice(parameter.Name, parameter.Key.Looks))]
            : [];

    private SiteRecord? KindOf(string record) => compilation.Partial?.Kinds.FirstOrDefault(kind => kind.Name == record);
}
