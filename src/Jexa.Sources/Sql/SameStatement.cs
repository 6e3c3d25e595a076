namespace Jexa.Sources.Sql;

/// <summary>
/// Tells statements apart. They are long, and nearly always the very same object: their hash looks at a few characters only.
/// </summary>
internal sealed class SameStatement : IEqualityComparer<string>
{
    public static SameStatement Comparer { get; } = new();

    public bool Equals(string? one, string? other) => one == other;

    public int GetHashCode(string text) => text.Length == 0 ? 0 : (text.Length * 31) + (text[text.Length / 2] * 7) + text[^1];
}
