using Jexa.Core.Audit;

namespace Jexa.Service.Audit;

/// <summary>An ID that no page should show a record for, or only by a redirect.</summary>
/// <param name="Kind">What is wrong with it.</param>
/// <param name="Shown">As the application may repeat it.</param>
/// <param name="IsSame">Whether it can be another spelling of the right ID.</param>
internal sealed record BadId(string Kind, Uri Address, string Shown, bool IsSame = false)
{
    /// <summary>Whether any answer will do that is no fault of the server.</summary>
    public bool IsOnlyForFaults { get; init; }

    /// <summary>The text with markup: a page that repeats it as it is lets anybody write into it.</summary>
    public const string Markup = "<b id=jexa>x</b>\"'";

    /// <summary>The bad forms of the ID of a right address.</summary>
    public static IReadOnlyList<BadId> Of(Uri address, IdPart part, string id)
    {
        var isNumber = id.All(char.IsAsciiDigit) && id.Length is > 0 and < 19;
        var cases = new List<BadId>();
        if (part.Parameter is not null)
            Add("missing", null, "");
        Add("empty", "", "");
        Add("no ID of this kind", isNumber ? "no-id" : "%20%20no%20id", "no-id");
        Add("unknown", Unknown(id, isNumber), Uri.UnescapeDataString(Unknown(id, isNumber)));
        Add("far too large", new string('9', 40), new string('9', 40));
        Add("with markup and quotes", Uri.EscapeDataString(Markup), Markup);
        Add("with more behind it", Uri.EscapeDataString(id) + "xyz", id + "xyz");
        cases.Add(new BadId("encoded otherwise", part.With(address, Encoded(id)), id, IsSame: true) { IsOnlyForFaults = true });
        if (part.Parameter is { } name)
            cases.Add(
                new BadId("given twice", new Uri($"{address.AbsoluteUri}&{name}={Unknown(id, isNumber)}"), id)
                {
                    IsOnlyForFaults = true,
                }
            );
        if (isNumber)
        {
            Add("negative", "-1", "-1");
            cases.Add(new BadId("with a zero before it", part.With(address, "0" + id), "0" + id, IsSame: true));
            cases.Add(new BadId("with a blank behind it", part.With(address, id + "%20"), id, IsSame: true));
        }

        if (id.Any(char.IsAsciiLetter))
        {
            var other = id.Any(char.IsAsciiLetterLower) ? id.ToUpperInvariant() : id.ToLowerInvariant();
            cases.Add(new BadId("in other letter case", part.With(address, Uri.EscapeDataString(other)), other, IsSame: true));
        }

        return cases;

        void Add(string kind, string? text, string shown) => cases.Add(new BadId(kind, part.With(address, text), shown));
    }

    /// <summary>The same ID, each byte of it encoded.</summary>
    private static string Encoded(string id) => string.Concat(System.Text.Encoding.UTF8.GetBytes(id).Select(one => $"%{one:X2}"));

    private static string Unknown(string id, bool isNumber) =>
        isNumber ? "999999937"
        : Guid.TryParse(id, out _) ? "00000000-0000-4000-8000-00000000dead"
        : "no-such-record-here";
}
