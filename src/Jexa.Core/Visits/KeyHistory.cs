using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Follows keys through the change log. The latest event of a key counts. If the key was changed, only later events of the new
/// key count, step by step: an older record may have had that key before.
/// </summary>
internal sealed class KeyHistory(IChangeLog log)
{
    private const int MostSteps = 100;

    /// <summary>What happened to a record; null if the log does not tell.</summary>
    public KeyEnd? Follow(RecordPage page, IReadOnlyList<string> texts)
    {
        if (page.Scope is not { } scope)
            return null;
        try
        {
            var key = Join(InOrder(page).Select(number => texts[number]));
            var fate = log.LatestKeyEvent(scope, key);
            for (var step = 0; fate is { Kind: ChangeKind.Changed, To: { } to } && step < MostSteps; step++)
            {
                key = to;
                fate = log.NextKeyEvent(scope, key, fate.Change);
                if (fate is null)
                    return new KeyEnd(Split(page, key));
            }

            return fate is { Kind: ChangeKind.Deleted } ? new KeyEnd(null) : null;
        }
        catch (SourceException)
        {
            // Without the log the record is simply unknown.
            return null;
        }
    }

    /// <summary>The key of a row in a scope; null if no address can contain it.</summary>
    public static string? KeyOf(KeyScope scope, Row row)
    {
        using var text = new Utf8Buffer(64);
        var texts = new List<string>();
        foreach (var (key, ordinal) in scope.Parts)
        {
            text.Truncate(0);
            if (!key.TryWrite(row, ordinal, text))
                return null;
            texts.Add(text.ToString());
        }

        return Join(texts);
    }

    private static string Join(IEnumerable<string> texts) => JsonSerializer.Serialize(texts.ToArray());

    public static string[] Split(RecordPage page, string key)
    {
        var texts = JsonSerializer.Deserialize<string[]>(key)!;
        var placed = new string[texts.Length];
        var order = InOrder(page).ToList();
        for (var i = 0; i < texts.Length; i++)
            placed[order[i]] = texts[i];
        return placed;
    }

    /// <summary>Fields of a scope are in the order of their names.</summary>
    private static IEnumerable<int> InOrder(RecordPage page) =>
        Enumerable.Range(0, page.Parameters.Count).OrderBy(number => page.Parameters[number].Field.Name, StringComparer.Ordinal);
}
