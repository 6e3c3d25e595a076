using System.Collections.Concurrent;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>How one record is found by an address, and how well it matches.</summary>
/// <param name="Load">At most two rows; each ends with whether it is visible where the record has conditions for that.</param>
/// <param name="Keys">How each part of the key is read and compared.</param>
/// <param name="Ordinals">Where the parts of the key are in a row.</param>
/// <param name="FlagOrdinal">Where a row says whether it is visible; -1 where every row is.</param>
public sealed record RecordLookup(IPreparedQuery Load, IReadOnlyList<KeyType> Keys, IReadOnlyList<int> Ordinals, int FlagOrdinal)
{
    private readonly ConcurrentDictionary<int, IPreparedQuery> _several = [];

    /// <summary>Where the records are.</summary>
    public required ISource Source { get; init; }

    /// <summary>The query of <see cref="Load"/>. Each of its conditions compares a part of the key with an argument.</summary>
    public required RecordQuery Query { get; init; }

    /// <summary>
    /// Looks for several records at once. Its arguments are the keys, one after the other. Each row has the parts of its key,
    /// then whether it is visible where the record has conditions for that.
    /// </summary>
    public IPreparedQuery Several(int records) => _several.GetOrAdd(records, Prepare);

    /// <summary>
    /// The first records in the order of their keys, hidden ones too. Rows are like those of <see cref="Several"/>. Null if the
    /// query needs values of an address.
    /// </summary>
    public IPreparedQuery? First(int records) =>
        Query.Rows.Origin.Values.All(value => value.Value is Operand.Written)
            ? Source.Prepare(
                Query with
                {
                    Columns = [.. Ordinals.Select(ordinal => Query.Columns[ordinal])],
                    Where = [],
                    Order =
                    [
                        .. Query
                            .Where.OfType<Condition.Equal>()
                            .Select(part => new Ordering.ByColumn(part.Column, false, EmptyPlace.Last)),
                    ],
                    Limit = records,
                }
            )
            : null;

    private IPreparedQuery Prepare(int records)
    {
        var parts = Query.Where.OfType<Condition.Equal>().ToList();
        Operand Argument(int record, int part) =>
            new Operand.Argument((record * parts.Count) + part, ((Operand.Argument)parts[part].Value).Type);
        var wanted = Enumerable.Range(0, records);
        Condition where = parts is [var only]
            ? new Condition.OneOf(only.Column, [.. wanted.Select(record => Argument(record, 0))])
            : new Condition.Any([
                .. wanted.Select(record => new Condition.All([
                    .. parts.Select((part, i) => new Condition.Equal(part.Column, Argument(record, i))),
                ])),
            ]);
        return Source.Prepare(
            Query with
            {
                Columns = [.. Ordinals.Select(ordinal => Query.Columns[ordinal])],
                Where = [where],
                Order = [],
                Limit = (2 * records) + 1,
            }
        );
    }
}
