using System.Text;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>Gives the ID texts that fill a template, in the order of <see cref="PathTemplate.Parameters"/>.</summary>
public interface IParameterTexts
{
    /// <summary>Appends the ID text (UTF-8, not percent-encoded) of one parameter; false where it has none.</summary>
    bool TryWrite(int parameter, Utf8Buffer into);
}

/// <summary>
/// Writes addresses of one template below one mount. What it writes, the matcher reads back to the same values; what no
/// URL can carry (an empty text, NUL, <c>.</c> and <c>..</c> as a whole segment, over 4 kB encoded) it refuses.
/// </summary>
public sealed class AddressBuilder
{
    /// <summary>The longest percent-encoded ID, in bytes.</summary>
    public const int MaxEncodedId = 4096;

    /// <summary>Literals around the parameters, percent-encoded: one more than there are parameters.</summary>
    private readonly byte[][] _literals;

    /// <summary>What stands around each path parameter in its segment; null for query parameters.</summary>
    private readonly string?[] _around;

    public AddressBuilder(PathTemplate template, string mount = "")
    {
        Template = template;
        _literals = Literals(template, mount);
        _around =
        [
            .. template.Segments.Where(segment => segment.Parameter is not null).Select(segment => segment.Prefix + segment.Suffix),
            .. template.QueryParameters.Select(_ => (string?)null),
        ];
    }

    public PathTemplate Template { get; }

    /// <summary>The template that its addresses expand, mount included (RFC 6570 level 1, ASCII).</summary>
    public string UriTemplate
    {
        get
        {
            var text = new StringBuilder(Encoding.ASCII.GetString(_literals[0]));
            for (var i = 0; i < Template.Parameters.Count; i++)
                text.Append('{').Append(Template.Parameters[i]).Append('}').Append(Encoding.ASCII.GetString(_literals[i + 1]));
            return text.ToString();
        }
    }

    /// <summary>The address of a template without parameters; null where it has some.</summary>
    public string? Fixed => Template.Parameters.Count == 0 ? Encoding.ASCII.GetString(_literals[0]) : null;

    /// <summary>
    /// Appends the address, ASCII, beginning with one slash. False, and nothing appended, where a parameter has no text or
    /// no URL can carry it.
    /// </summary>
    public bool TryBuild<TTexts>(in TTexts texts, Utf8Buffer into)
        where TTexts : IParameterTexts
    {
        var start = into.Length;
        into.Append(_literals[0]);
        for (var i = 0; i < _around.Length; i++)
        {
            if (TryAppendId(texts, i, into))
            {
                into.Append(_literals[i + 1]);
                continue;
            }

            into.Truncate(start);
            return false;
        }

        return true;
    }

    private bool TryAppendId<TTexts>(in TTexts texts, int parameter, Utf8Buffer into)
        where TTexts : IParameterTexts
    {
        var start = into.Length;
        if (!texts.TryWrite(parameter, into)) return false;
        var id = into.Written[start..];
        if (id.IsEmpty || id.Length > MaxEncodedId) return false;
        if (_around[parameter] is { } around && IsDotSegment(around, id)) return false;
        if (PercentCoding.IsPlain(id)) return true;
        if (id.Contains((byte)0) || !Utf8.IsValid(id)) return false;

        Span<byte> copy = stackalloc byte[MaxEncodedId];
        id.CopyTo(copy);
        copy = copy[..id.Length];
        into.Truncate(start);
        PercentCoding.Encode(copy, into);
        return into.Length - start <= MaxEncodedId;
    }

    private static bool IsDotSegment(string around, ReadOnlySpan<byte> id) =>
        around.Length + id.Length <= 2 && !id.ContainsAnyExcept((byte)'.') && !around.AsSpan().ContainsAnyExcept('.');

    private static byte[][] Literals(PathTemplate template, string mount)
    {
        var literals = new List<byte[]>();
        using var piece = new Utf8Buffer();
        piece.Append(mount);
        if (template.Segments.Count == 0) piece.Append((byte)'/');
        foreach (var segment in template.Segments)
        {
            piece.Append((byte)'/');
            PercentCoding.Encode(Encoding.UTF8.GetBytes(segment.Literal ?? segment.Prefix), piece);
            if (segment.Parameter is null) continue;
            literals.Add(piece.Written.ToArray());
            piece.Truncate(0);
            PercentCoding.Encode(Encoding.UTF8.GetBytes(segment.Suffix), piece);
        }

        var separator = '?';
        foreach (var name in template.QueryParameters)
        {
            piece.Append($"{separator}{name}=");
            literals.Add(piece.Written.ToArray());
            piece.Truncate(0);
            separator = '&';
        }

        literals.Add(piece.Written.ToArray());
        return [.. literals];
    }
}
