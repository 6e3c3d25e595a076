using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Proof;

/// <summary>Reads rows of a row set by their keys.</summary>
public static class RowsByKey
{
    /// <summary>Reads the rows with these keys, as they stand there now.</summary>
    /// <exception cref="Sources.SourceException">The source is away, too slow or refused.</exception>
    public static async Task<RowBlock> ReadAsync(
        RowSet set,
        IReadOnlyList<IReadOnlyList<TypedValue>> keys,
        CancellationToken cancellation
    )
    {
        var rows = new RowBlock();
        var (condition, arguments) = OneOf(set, keys);
        var query = set.Record.Source.Prepare(set.Query with { Where = [.. set.Query.Where, condition] });
        rows.Reset(query.Width);
        await query.RunAsync(arguments, rows, cancellation);
        return rows;
    }

    /// <summary>The rows with one of these keys: the condition, and all arguments of a query with it.</summary>
    internal static (Condition Condition, List<TypedValue> Arguments) OneOf(
        RowSet set,
        IReadOnlyList<IReadOnlyList<TypedValue>> keys
    )
    {
        var arguments = new List<TypedValue>(set.Arguments);
        var condition = new Condition.Any([
            .. keys.Select(key => new Condition.All([
                .. key.Select(
                    (value, i) =>
                        value is TypedValue.Empty
                            ? (Condition)new Condition.IsEmpty(set.Key[i].Column)
                            : new Condition.Equal(set.Key[i].Column, Add(value))
                ),
            ])),
        ]);
        return (condition, arguments);

        Operand Add(TypedValue value)
        {
            arguments.Add(value);
            return new Operand.Argument(arguments.Count - 1, FieldType.Any);
        }
    }
}
