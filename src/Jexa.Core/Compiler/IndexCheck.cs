using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Reports records of a large table that are found by columns without an index.</summary>
internal static partial class IndexCheck
{
    /// <summary>From this number of rows on, a table should be read by an index.</summary>
    private const long ManyRows = 10_000;

    /// <param name="each">How often all rows are read: for each …</param>
    public static void Check(FindingList findings, Place at, SiteRecord record, IReadOnlyList<string> columns, string each)
    {
        var table = record.Table;
        if (
            record.Query is not null
            || columns.Count == 0
            || table.Kind != TableKind.Table
            || table.AboutRows is not > ManyRows
            || table.IsIndexed([.. columns])
        )
            return;
        var names = string.Join(" or ", columns);
        findings.Add(
            FindingCodes.SlowId,
            at,
            $"No index of {table.Name} begins with {names}: each {each} reads all of its rows, about {table.AboutRows:N0}.",
            Remedy(table.Name, columns),
            found: names,
            expected: "fields that an index begins with"
        );
    }

    /// <summary>Reports a column of a large table that a list is narrowed by, and that no index begins with.</summary>
    /// <param name="each">How often the rows are read: for each …</param>
    public static void CheckFilter(FindingList findings, Place at, TableSchema table, string column, string each)
    {
        if (!table.IsIndexed([column]))
            findings.Add(
                FindingCodes.SlowFilter,
                at,
                $"No index of {table.Name} begins with {column}: each {each} may read all of its rows, "
                    + $"about {table.AboutRows:N0}.",
                Remedy(table.Name, [column]),
                found: column,
                expected: "a field that an index begins with"
            );
    }

    /// <summary>What makes an index: the statement, where the names need no marks.</summary>
    public static string Remedy(string table, IReadOnlyList<string> columns) =>
        columns.Append(table).All(name => PlainName().IsMatch(name))
            ? $"Add an index in the source: CREATE INDEX {table}_by_{columns[0]} ON {table} ({string.Join(", ", columns)})"
            : $"Add an index of {table} that begins with {columns[0]}.";

    [GeneratedRegex("^[a-z_][a-z0-9_]*$")]
    private static partial Regex PlainName();
}
