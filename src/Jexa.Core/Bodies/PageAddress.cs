namespace Jexa.Core.Bodies;

/// <summary>A link to a page by its name, as a body writes it: <c>page:NAME?x={f}&amp;y=word#id</c>.</summary>
/// <param name="Pairs">What is given of its parameters, in order.</param>
/// <param name="Fragment">What follows, with its number sign; empty for nothing.</param>
internal sealed record PageAddress(string Page, IReadOnlyList<(string Name, string Value)> Pairs, string Fragment)
{
    private const string Scheme = "page:";

    /// <summary>Null if it is no such address.</summary>
    public static PageAddress? Of(string? href)
    {
        if (href is null || !href.TrimStart().StartsWith(Scheme, StringComparison.OrdinalIgnoreCase))
            return null;
        var text = href.Trim()[Scheme.Length..];
        var hash = text.IndexOf('#');
        var fragment = hash < 0 ? "" : text[hash..];
        var rest = hash < 0 ? text : text[..hash];
        var question = rest.IndexOf('?');
        var page = (question < 0 ? rest : rest[..question]).Trim('/');
        var pairs = question < 0 ? [] : rest[(question + 1)..].Split('&', StringSplitOptions.RemoveEmptyEntries);
        return new PageAddress(
            page,
            [
                .. pairs
                    .Select(pair => pair.Split('=', 2))
                    .Select(pair => (pair[0], pair.Length > 1 ? Uri.UnescapeDataString(pair[1].Replace('+', ' ')) : "")),
            ],
            fragment
        );
    }

    /// <summary>The field that a value of a pair names; null if it is a word.</summary>
    public static string? FieldOf(string value) => value.Length > 2 && value[0] == '{' && value[^1] == '}' ? value[1..^1] : null;
}
