using Jexa.Core.Definitions;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>
/// Reports record kinds whose label is empty more often than not. Only columns that may be empty are read, of the first rows of
/// tables whose source tells at once how long they are: not of APIs.
/// </summary>
internal static class LabelReview
{
    /// <summary>As many rows are read of each kind.</summary>
    private const int Rows = 200;

    /// <summary>Of fewer rows nothing is said.</summary>
    private const int FewRows = 10;

    /// <param name="kinds">The record kinds whose source is there.</param>
    public static async Task CheckAsync(
        AppDefinition definition,
        IEnumerable<SiteRecord> kinds,
        FindingList findings,
        CancellationToken cancellation
    )
    {
        var doubted = kinds
            .Where(MayBeEmpty)
            .Where(kind => definition.Pages.Any(page => page.Record.Value == kind.Name))
            .ToList();
        var seen = await Task.WhenAll(doubted.Select(kind => ReadAsync(kind, cancellation)));
        foreach (var (kind, (empty, all)) in doubted.Zip(seen))
            if (all >= FewRows && empty * 2 > all)
                Report(kind, definition.Records.First(record => record.Name.Value == kind.Name), empty, all, findings);
    }

    private static void Report(SiteRecord kind, RecordDefinition said, int empty, int all, FindingList findings)
    {
        var label = string.Concat(kind.Label.Select(hole => hole.Literal ?? $"{{{hole.Field}}}"));
        findings.Add(
            FindingCodes.LabelOftenEmpty,
            said.Label?.At ?? said.Name.At,
            $"The label of {kind.Many} is empty in {empty} of the first {all}: links say only their kind and key.",
            $"Name fields that are always filled: label: \"{{FIELD}}\"",
            found: label,
            expected: "a text that tells records apart"
        );
    }

    /// <summary>Whether nothing in the label is always there.</summary>
    private static bool MayBeEmpty(SiteRecord kind) =>
        kind is { Query: null, Table: { Kind: TableKind.Table, PrimaryKey.Count: > 0, AboutRows: not null } }
        && kind.Label.Any(hole => hole.Field is not null)
        && kind.Label.All(hole =>
            hole.Field is { } field
                ? kind.LabelPaths.ContainsKey(field.Value) || kind.Find(field.Value) is null or { Column.Nullable: true }
                : string.IsNullOrWhiteSpace(hole.Literal)
        );

    /// <summary>How many of the first rows have an empty label.</summary>
    private static async Task<(int Empty, int All)> ReadAsync(SiteRecord kind, CancellationToken cancellation)
    {
        var load = new Projections(kind);
        var label = load.Text(kind, kind.Label, 0, null);
        if (load.Columns.Count == 0)
            return default;
        var query = new RecordQuery(kind.Seen, load.Joins, load.Columns, [], null, SampleCompiler.ByKey(kind), Rows);
        var rows = new RowBlock();
        var prepared = kind.Source.Prepare(query);
        rows.Reset(prepared.Width);
        try
        {
            await prepared.RunAsync([], rows, cancellation);
        }
        catch (SourceException)
        {
            // A source that has just gone away is told of by those who need it.
            return default;
        }

        var empty = 0;
        using var text = new Utf8Buffer(256);
        for (var i = 0; i < rows.Count; i++)
            if (label.IsBlank(rows[i], text))
                empty++;

        return (empty, rows.Count);
    }
}
