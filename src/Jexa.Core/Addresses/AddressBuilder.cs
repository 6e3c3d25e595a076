using System.Text;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>
/// Writes addresses of one template below one mount. The matcher reads them back to the same values. It refuses what no URL can
/// contain: an empty text, NUL, <c>.</c> or <c>..</c> as a whole segment, or more than 4 kB encoded.
/// </summary>
public sealed class AddressBuilder
{
    /// <summary>The longest ID in bytes, percent-encoded.</summary>
    public const int MaxEncodedId = 4096;

    /// <summary>The literals before each path parameter and after the last, percent-encoded.</summary>
    private readonly byte[][] _literals;

    /// <summary>The text around each path parameter in its segment.</summary>
    private readonly string[] _around;

    /// <summary>The names of query parameters with their equals signs, and whether each is optional.</summary>
    private readonly (byte[] Name, bool IsOptional)[] _query;

    /// <param name="optional">The query parameters that may be left out.</param>
    public AddressBuilder(PathTemplate template, string mount = "", IReadOnlySet<string>? optional = null)
    {
        Template = template;
        _literals = Literals(template, mount);
        _around =
        [
            .. template
                .Segments.Where(segment => segment.Parameter is not null)
                .Select(segment => segment.Prefix + segment.Suffix),
        ];
        _query =
        [
            .. template.QueryParameters.Select(name => (Encoding.ASCII.GetBytes(name + "="), optional?.Contains(name) == true)),
        ];
    }

    /// <summary>The template whose addresses are built.</summary>
    public PathTemplate Template { get; }

    /// <summary>A URI template for its addresses, mount included (RFC 6570 level 3, ASCII).</summary>
    public string UriTemplate
    {
        get
        {
            var text = new StringBuilder(Encoding.ASCII.GetString(_literals[0]));
            for (var i = 0; i < _around.Length; i++)
                text.Append('{').Append(Template.Parameters[i]).Append('}').Append(Encoding.ASCII.GetString(_literals[i + 1]));
            var separator = '?';
            foreach (var (name, _) in _query.Where(parameter => !parameter.IsOptional))
            {
                text.Append(separator)
                    .Append(Encoding.ASCII.GetString(name))
                    .Append('{')
                    .Append(Encoding.ASCII.GetString(name)[..^1])
                    .Append('}');
                separator = '&';
            }

            var optional = _query
                .Where(parameter => parameter.IsOptional)
                .Select(parameter => Encoding.ASCII.GetString(parameter.Name)[..^1])
                .Select(name => Template.Repeated.Contains(name) ? name + "*" : name)
                .ToList();
            return optional.Count == 0
                ? text.ToString()
                : text.Append('{').Append(separator).AppendJoin(',', optional).Append('}').ToString();
        }
    }

    /// <summary>The address of a template without parameters; null if it has some.</summary>
    public string? Fixed => Template.Parameters.Count == 0 ? AddressWithoutParameters : null;

    /// <summary>The address without any parameter; null if a parameter is required.</summary>
    public string? AddressWithoutParameters =>
        _around.Length == 0 && _query.All(parameter => parameter.IsOptional) ? Encoding.ASCII.GetString(_literals[0]) : null;

    /// <summary>
    /// Appends the address: ASCII, with one slash at the beginning. False, and nothing is appended, if a required parameter has
    /// no text or no URL can contain it.
    /// </summary>
    public bool TryBuild<TTexts>(in TTexts texts, Utf8Buffer into)
        where TTexts : IParameterTexts
    {
        var start = into.Length;
        into.Append(_literals[0]);
        for (var i = 0; i < _around.Length; i++)
        {
            if (!TryAppendId(texts, i, into))
                return Refuse(start, into);
            into.Append(_literals[i + 1]);
        }

        var separator = (byte)'?';
        for (var i = 0; i < _query.Length; i++)
        {
            var before = into.Length;
            into.Append(separator);
            into.Append(_query[i].Name);
            if (TryAppendId(texts, _around.Length + i, into))
            {
                separator = (byte)'&';
                continue;
            }

            into.Truncate(before);
            if (!_query[i].IsOptional)
                return Refuse(start, into);
        }

        return true;
    }

    /// <summary>
    /// The address with several texts for a parameter, each written once; null if a path parameter has none, or no URL can
    /// contain one of them.
    /// </summary>
    public string? Build(IReadOnlyList<IReadOnlyList<string>> texts)
    {
        using var into = new Utf8Buffer(256);
        into.Append(_literals[0]);
        for (var i = 0; i < _around.Length; i++)
        {
            if (texts[i].Count == 0 || !TryAppendId(new FirstTexts(texts), i, into))
                return null;
            into.Append(_literals[i + 1]);
        }

        var separator = (byte)'?';
        for (var i = 0; i < _query.Length; i++)
        {
            foreach (var text in texts[_around.Length + i])
            {
                into.Append(separator);
                into.Append(_query[i].Name);
                PercentCoding.Encode(Encoding.UTF8.GetBytes(text), into);
                separator = (byte)'&';
            }
        }

        return into.ToString();
    }

    private static bool Refuse(int start, Utf8Buffer into)
    {
        into.Truncate(start);
        return false;
    }

    private bool TryAppendId<TTexts>(in TTexts texts, int parameter, Utf8Buffer into)
        where TTexts : IParameterTexts
    {
        var start = into.Length;
        if (!texts.TryWrite(parameter, into))
            return false;
        var id = into.Written[start..];
        if (id.IsEmpty || id.Length > MaxEncodedId)
            return false;
        if (parameter < _around.Length && IsDotSegment(_around[parameter], id))
            return false;
        if (PercentCoding.IsPlain(id))
            return true;
        if (id.Contains((byte)0) || !Utf8.IsValid(id))
            return false;

        Span<byte> copy = stackalloc byte[id.Length];
        id.CopyTo(copy);
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
        if (template.Segments.Count == 0)
            piece.Append((byte)'/');
        foreach (var segment in template.Segments)
        {
            piece.Append((byte)'/');
            PercentCoding.Encode(Encoding.UTF8.GetBytes(segment.Literal ?? segment.Prefix), piece);
            if (segment.Parameter is null)
                continue;
            literals.Add(piece.Written.ToArray());
            piece.Truncate(0);
            PercentCoding.Encode(Encoding.UTF8.GetBytes(segment.Suffix), piece);
        }

        literals.Add(piece.Written.ToArray());
        return [.. literals];
    }

    private readonly struct FirstTexts(IReadOnlyList<IReadOnlyList<string>> texts) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(texts[parameter][0]);
            return true;
        }
    }
}
