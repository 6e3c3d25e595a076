using System.Globalization;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>A query of a developer's own, tried: it only reads, and no more rows than asked for.</summary>
/// <param name="Schema">What the query returns, or what is wrong with it.</param>
/// <param name="Sample">Its first rows; null if something is wrong with it.</param>
/// <param name="Arguments">The values of its parameters, in their order.</param>
public sealed record QueryTrial(QuerySchema Schema, RowSample? Sample, IReadOnlyList<TypedValue> Arguments)
{
    /// <summary>Tries a query.</summary>
    /// <param name="values">The values of its parameters as somebody typed them; one that is lacking or empty is null.</param>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async Task<QueryTrial> RunAsync(
        ISource source,
        string query,
        IReadOnlyDictionary<string, string> values,
        int most,
        CancellationToken cancellation
    )
    {
        var schema = await source.DescribeQueryAsync(query, cancellation);
        if (schema.Fault is not null)
            return new QueryTrial(schema, null, []);
        var arguments = schema.Parameters.Select(name => ValueOf(values.GetValueOrDefault(name, ""))).ToList();
        var origin = new RowOrigin(
            "query",
            query,
            [.. schema.Parameters.Select((name, i) => (name, (Operand)new Operand.Argument(i, TypeOf(arguments[i]))))]
        );
        var sample = await RowSample.ReadAsync(
            source,
            origin,
            [.. schema.Columns.Select(column => (column.Name, column.Type, SecretName.Is(column)))],
            arguments,
            most,
            cancellation
        );
        return new QueryTrial(schema, sample, arguments);
    }

    /// <summary>A typed value as one would write it in SQL: a whole number, another number, a truth value, else a text.</summary>
    private static TypedValue ValueOf(string text) =>
        text.Length == 0 ? TypedValue.Empty.Value
        : long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var whole)
            ? new TypedValue.Whole(whole)
        : decimal.TryParse(
            text,
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var number
        )
            ? new TypedValue.Number(number)
        : text is "true" or "false" ? new TypedValue.Boolean(text == "true")
        : new TypedValue.Text(text);

    private static FieldType TypeOf(TypedValue value) =>
        value switch
        {
            TypedValue.Whole => FieldType.Integer,
            TypedValue.Number => FieldType.Decimal,
            TypedValue.Boolean => FieldType.Boolean,
            _ => FieldType.Text,
        };
}
