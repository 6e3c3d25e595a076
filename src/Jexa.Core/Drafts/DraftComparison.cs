using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>
/// Finds what a source has that an app file does not mention, and what the file mentions that the source does not have any more.
/// </summary>
public static class DraftComparison
{
    /// <param name="source">The source's name in the app file.</param>
    public static IReadOnlyList<DraftDifference> Of(AppDefinition app, string source, SourceSchema schema)
    {
        var records = app.Records.Where(record => record.Source.Value == source && record.Table is not null).ToList();
        return
        [
            .. schema
                .Tables.Where(table => records.TrueForAll(record => record.Table!.Value != table.Name))
                .Select(table => new DraftDifference("new", table.Name, $"No record of the app file is over {table.Name}.")),
            .. records.SelectMany(record =>
                schema.Find(record.Table!.Value) is { } table
                    ? OfRecord(app, record, table)
                    :
                    [
                        new DraftDifference(
                            "gone",
                            record.Name.Value,
                            $"The record {record.Name} is over {record.Table}, which is not there any more."
                        ),
                    ]
            ),
        ];
    }

    private static IEnumerable<DraftDifference> OfRecord(AppDefinition app, RecordDefinition record, TableSchema table)
    {
        var named = record.Fields.Select(field => field.Name.Value).Concat(record.Key.Select(key => key.Value)).ToHashSet();
        foreach (var lost in named.Where(name => table.Find(name) is null))
            yield return new DraftDifference("gone", $"{record.Name}.{lost}", $"{table.Name} has no column {lost} any more.");
        if (
            record.Key.Count > 0
            && table.PrimaryKey.Count > 0
            && !record.Key.Select(key => key.Value).SequenceEqual(table.PrimaryKey)
        )
            yield return new DraftDifference(
                "different",
                record.Name.Value,
                $"The key of {record.Name} is {string.Join(", ", record.Key)}; that of {table.Name} is "
                    + $"{string.Join(", ", table.PrimaryKey)}."
            );
        foreach (var field in record.Fields)
            if (
                field.Type is not null
                && table.Find(field.Name.Value) is { } column
                && column.Type != FieldType.Any
                && column.Type.Word() != field.Type.Value
            )
                yield return new DraftDifference(
                    "different",
                    $"{record.Name}.{field.Name}",
                    $"{field.Name} is {field.Type} in the app file and {column.Type.Word()} in {table.Name}."
                );
        var pages = app.Pages.Where(page => page.Record.Value == record.Name.Value).ToList();
        foreach (var column in Unshown(pages, table, named))
            yield return new DraftDifference(
                "new",
                $"{record.Name}.{column.Name}",
                $"No page shows {column.Name} of {table.Name} ({column.DeclaredType.ToLowerInvariant()})."
            );
    }

    /// <summary>
    /// The columns that no page shows. A detail page with a list of columns does not show new columns; one without shows all.
    /// </summary>
    private static IEnumerable<ColumnSchema> Unshown(List<PageDefinition> pages, TableSchema table, HashSet<string> named)
    {
        var details = pages.Where(page => page.Kind == PageKind.Detail).ToList();
        if (details.Count == 0 || details.Exists(page => page.Show.Count == 0))
            return [];
        var shown = pages
            .SelectMany(page => page.Show.Concat(page.Form))
            .Select(name => name.Value.Split('.')[0])
            .Concat(named)
            .ToHashSet();
        return table.Columns.Where(column => !shown.Contains(column.Name) && !table.PrimaryKey.Contains(column.Name));
    }
}
