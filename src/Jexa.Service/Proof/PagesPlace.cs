namespace Jexa.Service.Proof;

/// <summary>Where visitors reach the pages, and which address there stands for one that the service has built.</summary>
/// <param name="url">The address of the pages, with the prefix under which visitors see them.</param>
/// <param name="below">The prefix that the service itself puts before its addresses; empty for none.</param>
public sealed class PagesPlace(Uri url, string below)
{
    private readonly string _prefix = url.AbsolutePath.TrimEnd('/');

    /// <summary>Whether visitors see another prefix than the service puts before its addresses.</summary>
    public bool IsMoved => _prefix != below;

    /// <summary>The prefix that visitors see, with a slash at its end.</summary>
    public string Prefix => _prefix + "/";

    /// <summary>The address at which visitors find what the service has at one of its own.</summary>
    public string Moved(string address) =>
        address.StartsWith(below, StringComparison.Ordinal) ? _prefix + address[below.Length..] : address;

    /// <inheritdoc cref="Moved"/>
    public Uri At(string address) => new(url, Moved(address));

    /// <summary>Whether a link of a page is a path that visitors do not reach.</summary>
    public bool IsOutside(string link) =>
        link.StartsWith('/')
        && !link.StartsWith("//", StringComparison.Ordinal)
        && link != _prefix
        && !link.StartsWith(Prefix, StringComparison.Ordinal);
}
