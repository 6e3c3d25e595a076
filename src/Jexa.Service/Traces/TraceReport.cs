using System.Globalization;
using System.Text;
using Jexa.Core.Keys;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Service.Traces;

/// <summary>Describes traces for the management API, when somebody asks.</summary>
public static class TraceReport
{
    private const int LongestValue = 120;

    public static TraceInfo Of(VisitTrace trace) =>
        new(
            trace.Number,
            trace.At,
            trace.Method,
            Escaped(trace.Target),
            trace.Page?.Name,
            trace.Outcome?.Word,
            trace.Outcome?.IsGood ?? false,
            trace.Status,
            trace.Location,
            trace.Why,
            trace.Visitor?.ToString(),
            trace is { Site: { } site, Reading: { } reading }
                ?
                [
                    .. Candidates
                        .Explain(site, reading, trace.Page)
                        .Select(c => new CandidateInfo(c.Page.Name, c.Page.Head.Template.Text, c.Won, c.Reason)),
                ]
                : [],
            [.. trace.Parameters.Select(parameter => Of(parameter, trace.Page))],
            [.. trace.Ignored.Select(Escaped)],
            [.. trace.Queries.Select(query => Of(query, trace))],
            [.. trace.Timings.Select(timing => new StepTrace(timing.Step, Rounded(timing.Microseconds)))],
            Rounded(trace.TotalMicroseconds)
        );

    public static VisitInfo Line(VisitTrace trace) =>
        new(
            trace.Number,
            trace.At,
            trace.Method,
            Escaped(trace.Target),
            trace.Page?.Name,
            trace.Outcome?.Word,
            trace.Status,
            Rounded(trace.TotalMicroseconds),
            trace.Framed
        );

    /// <summary>
    /// Text from a visitor with all invisible and bidirectional characters written out, so that it cannot disturb a terminal or a
    /// log.
    /// </summary>
    public static string Escaped(string text)
    {
        if (!text.Any(IsTroublesome))
            return text;
        var safe = new StringBuilder(text.Length + 16);
        foreach (var c in text)
        {
            if (IsTroublesome(c))
                safe.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:X4}");
            else
                safe.Append(c);
        }

        return safe.ToString();
    }

    private static bool IsTroublesome(char c) =>
        char.IsControl(c)
        || char.GetUnicodeCategory(c)
            is UnicodeCategory.Format
                or UnicodeCategory.LineSeparator
                or UnicodeCategory.ParagraphSeparator
        || (c is '\uFFFE' or '\uFFFF');

    private static ParameterTrace Of(TracedParameter parameter, Page? page)
    {
        var type = page?.Parameters.FirstOrDefault(p => p.Name == parameter.Name)?.Key.Type.Word();
        return new ParameterTrace(
            parameter.Name,
            parameter.Raw is { } raw ? Escaped(Cut(raw)) : null,
            type,
            parameter.Reading.Value is { } value ? Escaped(Cut(value.ToString()!)) : null,
            parameter.Reading.IsCanonical,
            parameter.Reading.Fault == KeyFault.None ? null : Words(parameter.Reading.Fault)
        );
    }

    private static QueryTrace Of(TracedQuery query, VisitTrace trace) =>
        new(
            Escaped(query.Query.Shown(query.Arguments) + (query.Remark is { } remark ? " → " + remark : "")),
            query.Query.ColumnNames,
            query.Rows is { } rows ? [.. Enumerable.Range(0, rows.Count).Select(i => Values(rows[i]))] : [],
            query.RowCount,
            Rounded(trace.MicrosecondsOf(query))
        );

    private static IReadOnlyList<string?> Values(Row row) =>
        [.. Enumerable.Range(0, row.Width).Select(column => Value(row, column))];

    private static string? Value(Row row, int column)
    {
        ref readonly var cell = ref row[column];
        return cell.Kind switch
        {
            CellKind.Null => null,
            CellKind.Integer => cell.Integer.ToString(CultureInfo.InvariantCulture),
            CellKind.Boolean => cell.Integer == 0 ? "false" : "true",
            CellKind.Real => cell.Real.ToString("R", CultureInfo.InvariantCulture),
            CellKind.Date => DateOnly.FromDayNumber((int)cell.Integer).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            CellKind.Timestamp => new DateTime(cell.Integer).ToString("s", CultureInfo.InvariantCulture),
            CellKind.Uuid => new Guid(row.Run(column), bigEndian: true).ToString(),
            CellKind.Bytes => $"({cell.Length} bytes)",
            _ => Escaped(Cut(row.Text(column))),
        };
    }

    /// <summary>A fault as words: <c>OutOfRange</c> becomes “out of range”.</summary>
    private static string Words(KeyFault fault) =>
        string.Concat(
            fault
                .ToString()
                .Select((c, i) => i > 0 && char.IsUpper(c) ? " " + char.ToLowerInvariant(c) : char.ToLowerInvariant(c).ToString())
        );

    private static string Cut(string text) => text.Length <= LongestValue ? text : text[..LongestValue] + "…";

    private static double Rounded(double microseconds) => Math.Round(microseconds, 1);
}
