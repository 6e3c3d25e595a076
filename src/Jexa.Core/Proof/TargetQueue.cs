using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>Looks for the records that links lead to: many with one query, and those that it does not find one by one.</summary>
/// <param name="parameters">The numbers of the values that the key is made of.</param>
internal sealed class TargetQueue(RecordLookup lookup, IReadOnlyList<int> parameters)
{
    private const int AtOnce = 200;

    private readonly RowBlock _rows = new();

    /// <summary>A query whose own parameters are filled from the address is asked for each record by itself.</summary>
    private readonly bool _isSeveral =
        lookup.Query.Rows.Origin.Values.All(value => value.Value is Operand.Written) && lookup.Query.Where.All(IsPlain);

    /// <summary>How many records were looked for.</summary>
    public long Lookups { get; private set; }

    /// <summary>The links that do not lead to exactly one record that may be seen.</summary>
    /// <exception cref="Sources.SourceException">The source is away, too slow or refused.</exception>
    public async Task<IReadOnlyList<(string Address, LinkVerdict Verdict)>> LookAsync(
        IReadOnlyList<(string Address, TypedValue[] Values)> links,
        CancellationToken cancellation
    )
    {
        var bad = new List<(string, LinkVerdict)>();
        foreach (var some in links.Chunk(AtOnce))
        {
            Lookups += some.Length;
            var keys = some.Select(link => parameters.Select(number => link.Values[number]).ToArray()).ToList();
            var found = _isSeveral && some.Length > 1 ? await FindAsync(keys, cancellation) : [];
            for (var i = 0; i < some.Length; i++)
                if (
                    found.GetValueOrDefault(TextOf(keys[i])) != 1
                    && await LookAsync(keys[i], cancellation) is var verdict and not LinkVerdict.Fine
                )
                    bad.Add((some[i].Address, verdict));
        }

        return bad;
    }

    private static bool IsPlain(Condition condition) => condition is Condition.Equal { Value: Operand.Argument };

    private string TextOf(TypedValue[] key) => ArgumentKey.Of(key.Select((value, i) => lookup.Keys[i].Write(value)));

    /// <summary>How many visible rows each of some keys has.</summary>
    private async Task<Dictionary<string, int>> FindAsync(List<TypedValue[]> keys, CancellationToken cancellation)
    {
        // One query for all: a shorter list asks for its last key again.
        var arguments = keys.Concat(Enumerable.Repeat(keys[^1], AtOnce - keys.Count)).SelectMany(key => key).ToList();
        var query = lookup.Several(AtOnce);
        _rows.Reset(query.Width);
        await query.RunAsync(arguments, _rows, cancellation);
        var found = new Dictionary<string, int>();
        using var scratch = new Utf8Buffer(256);
        for (var i = 0; i < _rows.Count; i++)
        {
            if (lookup.FlagOrdinal >= 0 && _rows[i][lookup.Keys.Count].Integer != 1)
                continue;
            if (TextOf(_rows[i], scratch) is { } text)
                found[text] = found.GetValueOrDefault(text) + 1;
        }

        return found;
    }

    private string? TextOf(Row row, Utf8Buffer scratch)
    {
        var texts = new string[lookup.Keys.Count];
        for (var i = 0; i < texts.Length; i++)
        {
            scratch.Truncate(0);
            if (!lookup.Keys[i].TryWrite(row, i, scratch))
                return null;
            texts[i] = scratch.ToString();
        }

        return ArgumentKey.Of(texts);
    }

    /// <summary>Looks for one record, as a visit does.</summary>
    private async Task<LinkVerdict> LookAsync(TypedValue[] key, CancellationToken cancellation)
    {
        _rows.Reset(lookup.Load.Width);
        await lookup.Load.RunAsync(key, _rows, cancellation);
        return Loading.Decide(lookup, _rows, key).Outcome switch
        {
            // A link in another letter case leads to its record by one more step.
            Outcome.Found or Outcome.NotCanonical => LinkVerdict.Fine,
            Outcome.Hidden => LinkVerdict.Hidden,
            Outcome.Ambiguous => LinkVerdict.Ambiguous,
            _ => LinkVerdict.Lost,
        };
    }
}
