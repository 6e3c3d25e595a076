using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Edits;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Service.Workshop;

/// <summary>
/// The pages of the working copy, below a prefix that only the console knows. They have findings and cursors of their own, share
/// the open sources with the pages that are served, and change nothing.
/// </summary>
public sealed class Preview
{
    /// <summary>The segments before the token.</summary>
    public const string Segment = "preview";

    private const string NoRows = RequestTarget.ReservedSegment + "=empty";

    private readonly byte[] _token;
    private readonly string _before;
    private volatile Site? _site;

    public Preview(Mount pages, IChangeLog log, TimeProvider clock)
    {
        Clock = clock;
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));
        _token = Encoding.ASCII.GetBytes(token);
        _before = $"{pages}/{RequestTarget.ReservedSegment}/{Segment}/";
        Mount = Mount.Parse(_before + token)!;
        Runner = new VisitRunner(
            clock,
            new ListCursor(RandomNumberGenerator.GetBytes(32)),
            new RuntimeFindings(),
            new EditServices(log, new PreviewSeal(), RandomNumberGenerator.GetBytes(32))
        );
    }

    /// <summary>The prefix of all addresses of the preview, with the token.</summary>
    public Mount Mount { get; }

    /// <summary>The site of the working copy; null as long as nobody has looked at one.</summary>
    public Site? Site
    {
        get => _site;
        set => _site = value;
    }

    public VisitRunner Runner { get; }

    public TimeProvider Clock { get; }

    /// <summary>
    /// A visit of a page of the preview. An address that ends in <c>_jexa=empty</c> shows lists and blocks without records.
    /// </summary>
    public VisitRequest Request(string method, string raw, Reader reader)
    {
        var showsNoRows =
            raw.EndsWith('?' + NoRows, StringComparison.Ordinal) || raw.EndsWith('&' + NoRows, StringComparison.Ordinal);
        var asked = showsNoRows ? raw[..^(NoRows.Length + 1)] : raw;
        return new(method, RequestTarget.Read(asked, Mount), reader, Principal.Anonymous.Value) { ShowsNoRows = showsNoRows };
    }

    /// <summary>The address of the preview that shows lists and blocks without records.</summary>
    public static string WithoutRows(string address) => address + (address.Contains('?') ? '&' : '?') + NoRows;

    /// <summary>Whether a raw target is in the preview. The token is compared in a time that tells nothing of it.</summary>
    public bool Owns(string raw)
    {
        if (!raw.StartsWith(_before, StringComparison.Ordinal))
            return false;
        var rest = raw.AsSpan(_before.Length);
        var end = rest.IndexOfAny('/', '?');
        var given = Encoding.ASCII.GetBytes((end < 0 ? rest : rest[..end]).ToString());
        return CryptographicOperations.FixedTimeEquals(given, _token);
    }
}
