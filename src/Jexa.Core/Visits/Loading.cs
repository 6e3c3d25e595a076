using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Decides what zero, one or two loaded rows mean. The source compares by its own collation. Here each key is compared once more,
/// code unit by code unit, so that no row is taken for another.
/// </summary>
internal static class Loading
{
    public static LoadDecision Decide(RecordLookup lookup, RowBlock rows, TypedValue[] asked)
    {
        if (rows.Count == 0)
            return new LoadDecision(new Outcome.Unknown(), -1, "The source has no such row, or none that this page may show.");
        var (exact, exactAt, near, nearAt, seen, isHidden) = (0, -1, 0, -1, 0, false);
        for (var i = 0; i < rows.Count; i++)
        {
            var match = Match(lookup, rows[i], asked);
            if (lookup.FlagOrdinal >= 0 && rows[i][lookup.FlagOrdinal].Integer != 1)
            {
                // A row that may not be seen does not change the answer; only the developer learns of it.
                isHidden |= match >= KeyMatch.CaseOnly;
                continue;
            }

            seen++;
            if (match == KeyMatch.Exact)
                (exact, exactAt) = (exact + 1, i);
            if (match == KeyMatch.CaseOnly)
                (near, nearAt) = (near + 1, i);
        }

        if (exact > 1)
            return new LoadDecision(new Outcome.Ambiguous(), -1, "Two visible rows have this key.");
        if (exact == 1)
            return new LoadDecision(Outcome.Found.Value, exactAt, "Exactly one visible row has this key.");
        if (near == 1 && seen == 1)
            return new LoadDecision(
                new Outcome.NotCanonical(),
                nearAt,
                "The only visible row found spells its key in other letter case."
            );
        return isHidden
            ? new LoadDecision(new Outcome.Hidden(), -1, "A row has this key, but its record is not visible.")
            : new LoadDecision(
                new Outcome.Unknown(),
                -1,
                "The source found rows only by rules looser than letter case, or of another storage class."
            );
    }

    /// <summary>The key of a loaded row, in the order of the lookup's keys.</summary>
    public static TypedValue[] KeyOf(RecordLookup lookup, Row row) =>
        [.. lookup.Ordinals.Select((ordinal, i) => lookup.Keys[i].ValueOf(row, ordinal))];

    private static KeyMatch Match(RecordLookup lookup, Row row, TypedValue[] asked)
    {
        var match = KeyMatch.Exact;
        for (var i = 0; i < asked.Length; i++)
        {
            var part = lookup.Keys[i].Compare(row, lookup.Ordinals[i], asked[i]);
            if (part < match)
                match = part;
        }

        return match;
    }
}
