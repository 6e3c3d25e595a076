namespace Jexa.Core.Values;

/// <summary>The words for field types in app files, messages and JSON.</summary>
public static class FieldTypes
{
    /// <summary>The words an app file may use after <c>type:</c>.</summary>
    public static IReadOnlyList<string> Words { get; } =
    [.. Enum.GetValues<FieldType>().Where(type => type != FieldType.Any).Select(Word)];

    /// <summary>The type's name in app files and messages, in lower case.</summary>
    public static string Word(this FieldType type) => type.ToString().ToLowerInvariant();

    /// <summary>Reads a type's name. False if there is no such type.</summary>
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
