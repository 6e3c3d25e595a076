namespace Jexa.Sources.Sql;

/// <summary>
/// Compares statements. They are long, and nearly always the same object, so the hash uses only a few characters.
/// </summary>
internal sealed class SameStatement : IEqualityComparer<string>
{
    public static SameStatement Comparer { get; } = new();

    public bool Equals(string? one, string? other) => one == other;

    public int GetHashCode(string text) => text.Length == 0 ? 0 : (text.Length * 31) + (text[text.Length / 2] * 7) + text[^1];
}
