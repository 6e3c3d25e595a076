using Jexa.Core.Keys;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// The records that a foreign key can refer to. If they are few, all are offered; if they are many, they are searched.
/// </summary>
/// <param name="All">One more than a plain choice offers, by their labels.</param>
/// <param name="Found">Those whose label contains a text, one more than is shown. Null if the label has no text.</param>
/// <param name="One">One record by its key.</param>
/// <param name="Keys">The columns that the foreign key refers to, in its order.</param>
public sealed record ReferenceChoices(
    SiteRecord Other,
    IPreparedQuery All,
    IPreparedQuery? Found,
    IPreparedQuery One,
    IReadOnlyList<ChoiceKey> Keys,
    TextPlan Label
)
{
    /// <summary>If there are more records than this, they are searched.</summary>
    public const int MostInList = 100;

    /// <summary>The most records shown for a search.</summary>
    public const int MostFound = 20;

    /// <summary>
    /// The text that chooses the record of a row: its key; several parts are percent-encoded with slashes between. Null if no
    /// address could contain it.
    /// </summary>
    public string? ValueOf(Row row)
    {
        using var text = new Utf8Buffer(64);
        var parts = new string[Keys.Count];
        for (var i = 0; i < parts.Length; i++)
        {
            text.Truncate(0);
            if (!Keys[i].Type.TryWrite(row, Keys[i].Ordinal, text))
                return null;
            parts[i] = text.ToString();
        }

        return Joined(parts);
    }

    /// <summary>The text that chooses a record.</summary>
    /// <param name="parts">The ID texts of its key.</param>
    public static string Joined(IReadOnlyList<string> parts) =>
        parts is [var only] ? only : string.Join('/', parts.Select(Uri.EscapeDataString));

    /// <summary>The ID texts in a choice's text; null if their number is not that of the key's parts.</summary>
    public string[]? PartsOf(string value)
    {
        string[] parts = Keys.Count == 1 ? [value] : [.. value.Split('/').Select(Uri.UnescapeDataString)];
        return parts.Length == Keys.Count ? parts : null;
    }

    /// <summary>The key in a choice's text; null if there is none.</summary>
    public TypedValue[]? KeyOf(string value)
    {
        if (PartsOf(value) is not { } parts)
            return null;
        var key = Keys.Zip(parts, (one, part) => one.Type.Read(part).Value).OfType<TypedValue>().ToArray();
        return key.Length == Keys.Count ? key : null;
    }

    /// <summary>Whether a row is the record with exactly this key.</summary>
    public bool Is(Row row, IReadOnlyList<TypedValue> key) =>
        Keys.Select((one, i) => one.Type.Compare(row, one.Ordinal, key[i])).All(match => match == KeyMatch.Exact);
}
