namespace Jexa.Core.Formats;

/// <summary>The address of a player of another host, with the field's value as one part of it.</summary>
/// <param name="Before">Scheme, host, and all before the value.</param>
/// <param name="Origin">The one origin that is framed for it.</param>
public sealed record PlayerAddress(string Before, string After, string Origin)
{
    /// <summary>The word in braces that stands for the field's value.</summary>
    public const string Hole = "{value}";

    /// <summary>The longest value.</summary>
    private const int MostLength = 500;

    /// <summary>Reads an address such as <c>https://player.example/show/{value}</c>; null if it is none.</summary>
    public static PlayerAddress? Read(string template)
    {
        var at = template.IndexOf(Hole, StringComparison.Ordinal);
        if (at < 0 || template.IndexOf('{', at + 1) >= 0 || template.Any(c => c is <= ' ' or '"' or '<' or '>' or '\\'))
            return null;
        var before = template[..at];
        if (
            !Uri.TryCreate(before, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("http" or "https")
            || uri.UserInfo.Length > 0
            || before.IndexOf('/', uri.Scheme.Length + "://".Length) < 0
        )
            return null;
        return new PlayerAddress(before, template[(at + Hole.Length)..], uri.GetLeftPart(UriPartial.Authority));
    }

    /// <summary>The address for a value; null if no address can carry it.</summary>
    public string? For(string value) =>
        value.Length is 0 or > MostLength || value is "." or ".." ? null : Before + Uri.EscapeDataString(value) + After;
}
