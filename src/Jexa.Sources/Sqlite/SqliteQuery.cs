using System.Globalization;
using System.Text;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>A query as SQL text, run on whichever connection is free; each keeps it prepared under this object's identity.</summary>
internal sealed class SqliteQuery(SqlitePool pool, string text, IReadOnlyList<string> columnNames, FieldType[] types, bool isCount = false) : IPreparedQuery
{
    public string Text { get; } = text;

    public int Width { get; } = columnNames.Count;

    public IReadOnlyList<string> ColumnNames { get; } = columnNames;

    /// <summary>The type to read each column as; columns beyond are plain integers.</summary>
    public FieldType[] Types { get; } = types;

    public IReadOnlyList<int> SecretCells { get; init; } = [];

    /// <summary>Runs it on a connection at hand.</summary>
    public void Run(SqliteReader connection, IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation) =>
        connection.Run(this, arguments, into, cancellation);

    public async ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation)
    {
        using var lease = await pool.RentAsync(cancellation);
        if (isCount) lease.Connection.Count(this, arguments, into, cancellation);
        else lease.Connection.Run(this, arguments, into, cancellation);
    }

    public string Shown(IReadOnlyList<Constant> arguments)
    {
        var shown = new StringBuilder(Text.Length + 32);
        for (var i = 0; i < Text.Length; i++)
        {
            // Arguments are ?1, ?2 …; within quotes a question mark is just that.
            if (Text[i] is '"' or '\'')
            {
                var close = Text.IndexOf(Text[i], i + 1);
                shown.Append(Text, i, close - i + 1);
                i = close;
                continue;
            }

            if (Text[i] != '?')
            {
                shown.Append(Text[i]);
                continue;
            }

            var end = i + 1;
            while (end < Text.Length && char.IsAsciiDigit(Text[end])) end++;
            var number = int.Parse(Text.AsSpan(i + 1, end - i - 1), NumberStyles.None, CultureInfo.InvariantCulture);
            shown.Append(number <= arguments.Count ? SqliteText.Literal(arguments[number - 1]) : Text[i..end]);
            i = end - 1;
        }

        return shown.Append(';').ToString();
    }
}
