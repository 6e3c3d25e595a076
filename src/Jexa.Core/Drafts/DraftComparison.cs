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
        var differences = new List<DraftDifference>();
        var records = app.Records.Where(record => record.Source.Value == source && record.Table is not null).ToList();
        foreach (var table in schema.Tables.Where(table => records.TrueForAll(record => record.Table!.Value != table.Name)))
            differences.Add(new DraftDifference("new", table.Name, $"No record of the app file is over {table.Name}."));
        foreach (var record in records)
        {
            if (schema.Find(record.Table!.Value) is not { } table)
            {
                differences.Add(
                    new DraftDifference(
                        "gone",
                        record.Name.Value,
                        $"The record {record.Name} is over {record.Table}, which is not there any more."
                    )
                );
                continue;
            }

            var pages = app.Pages.Where(page => page.Record.Value == record.Name.Value).ToList();
            var named = record.Fields.Select(field => field.Name.Value).Concat(record.Key.Select(key => key.Value)).ToHashSet();
            foreach (var lost in named.Where(name => table.Find(name) is null))
                differences.Add(
                    new DraftDifference("gone", $"{record.Name}.{lost}", $"{table.Name} has no column {lost} any more.")
                );
            if (
                record.Key.Count > 0
                && table.PrimaryKey.Count > 0
                && !record.Key.Select(key => key.Value).SequenceEqual(table.PrimaryKey)
            )
                differences.Add(
                    new DraftDifference(
                        "different",
                        record.Name.Value,
                        $"The key of {record.Name} is {string.Join(", ", record.Key)}; that of {table.Name} is "
                            + $"{string.Join(", ", table.PrimaryKey)}."
                    )
                );
            foreach (
                var field in record.Fields.Where(field =>
                    field.Type is not null
                    && table.Find(field.Name.Value) is { } column
                    && column.Type != FieldType.Any
                    && column.Type.Word() != field.Type!.Value
                )
            )
                differences.Add(
                    new DraftDifference(
                        "different",
                        $"{record.Name}.{field.Name}",
                        $"{field.Name} is {field.Type} in the app file and {table.Find(field.Name.Value)!.Type.Word()} "
                            + $"in {table.Name}."
                    )
                );

            // A page with a list of columns does not show new columns; one without shows all.
            var details = pages.Where(page => page.Kind == PageKind.Detail).ToList();
            if (details.Count == 0 || details.Exists(page => page.Show.Count == 0))
                continue;
            var shown = pages
                .SelectMany(page => page.Show.Concat(page.Form))
                .Select(name => name.Value.Split('.')[0])
                .Concat(named)
                .ToHashSet();
            foreach (
                var column in table.Columns.Where(column =>
                    !shown.Contains(column.Name) && !table.PrimaryKey.Contains(column.Name)
                )
            )
                differences.Add(
                    new DraftDifference(
                        "new",
                        $"{record.Name}.{column.Name}",
                        $"No page shows {column.Name} of {table.Name} ({column.DeclaredType.ToLowerInvariant()})."
                    )
                );
        }

        return differences;
    }
}
