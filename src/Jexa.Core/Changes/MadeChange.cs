using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>A change that was made.</summary>
/// <param name="Location">Where the visitor is redirected.</param>
/// <param name="Id">The record's ID as it is in addresses; null if no page shows it.</param>
/// <param name="Scopes">Its ID texts in each scope.</param>
internal sealed record MadeChange(
    string Location,
    string Label,
    string? Id,
    bool IsVisible,
    IReadOnlyDictionary<string, string?> Scopes
)
{
    /// <summary>The record's key in a page's addresses; null if they cannot contain it.</summary>
    public TypedValue[]? Keys(RecordPage page)
    {
        if (page.Scope is not { } scope || Scopes.GetValueOrDefault(scope) is not { } key)
            return null;
        var keys = KeyHistory.Split(page, key).Select((text, i) => page.Parameters[i].Key.Read(text).Value).ToArray();
        return Array.Exists(keys, value => value is null) ? null : [.. keys.OfType<TypedValue>()];
    }
}
