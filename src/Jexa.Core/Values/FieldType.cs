namespace Jexa.Core.Values;

/// <summary>What a field holds, as its source declares it or the app file says. A closed set.</summary>
public enum FieldType
{
    /// <summary>The source declares nothing: each value is shown by what it is.</summary>
    Any,
    Integer,
    Real,

    /// <summary>A decimal number that is never rounded: kept as its text.</summary>
    Decimal,
    Text,
    Boolean,
    Date,
    Timestamp,
    Uuid,
    Bytes,
}

/// <summary>The words for field types in app files, messages and JSON.</summary>
public static class FieldTypes
{
    /// <summary>The words an app file may use after <c>type:</c>.</summary>
    public static IReadOnlyList<string> Words { get; } =
    [.. Enum.GetValues<FieldType>().Where(type => type != FieldType.Any).Select(Word)];

    public static string Word(this FieldType type) => type.ToString().ToLowerInvariant();

    public static bool TryParse(string word, out FieldType type)
    {
        foreach (var candidate in Enum.GetValues<FieldType>())
        {
            if (candidate != FieldType.Any && candidate.Word() == word)
            {
                type = candidate;
                return true;
            }
        }

        type = FieldType.Any;
        return false;
    }
}
