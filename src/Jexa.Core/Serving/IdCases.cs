using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>Makes the addresses by which a page's answers to right and wrong IDs are tried.</summary>
public static class IdCases
{
    private const string Right = "right";

    /// <summary>Texts that are no ID, for most kinds of keys.</summary>
    private static readonly string[] Nonsense = ["no-id!", "1.5.x", "\u0001"];

    /// <summary>Texts that are IDs of some kind of key, and hardly ever of a record.</summary>
    private static readonly string[] Unlikely =
    [
        "999999937",
        "30011",
        "97",
        "no-such-record",
        "00000000-0000-4000-8000-00000000dead",
        "1000-01-01",
        "ZZ-9999",
    ];

    /// <summary>The cases of a page.</summary>
    /// <param name="sample">An address of the page that leads somewhere. Null if there is none.</param>
    public static IReadOnlyList<IdCase> Of(Page page, SampleAddress? sample)
    {
        var cases = new List<IdCase>();
        if (sample is not null)
            cases.Add(new IdCase(Right, null, sample.Address, Found(page)));
        for (var i = 0; i < page.Parameters.Count; i++)
            AddCases(cases, page, sample, i);
        return
        [
            .. cases
                .Where(one => one.Kind == Right || one.Address != sample?.Address)
                // Another program draws the page: a person is led there, whatever the ID.
                .Select(one => page.Head.DrawnAt is null ? one : one with { Expected = OutcomeKind.Elsewhere.Word }),
        ];
    }

    private static void AddCases(List<IdCase> cases, Page page, SampleAddress? sample, int at)
    {
        var parameter = page.Parameters[at];
        var (needsId, known) = (page.Head.Definition.Kind.HasId, Given(page, sample));
        var own = known[at];
        if (parameter.Segment < 0 && parameter.Required)
            Add("missing", null, OutcomeKind.Missing);
        if (Nonsense.FirstOrDefault(text => parameter.Key.Read(text).Value is null) is { } nonsense)
            Add("malformed", nonsense, OutcomeKind.Malformed);
        if (own is not null && Otherwise(parameter, own) is { } spelled)
            Add("not-canonical", spelled, OutcomeKind.NotCanonical);
        var nines = own is null ? null : new string([.. own.Select(letter => char.IsAsciiDigit(letter) ? '9' : letter)]);
        if (Unlikely.Append(nines ?? "").FirstOrDefault(text => text != own && IsCanonical(parameter, text)) is { } unlikely)
            Add("unknown", unlikely, needsId ? OutcomeKind.Unknown : null);
        if (parameter is { Segment: < 0, Many: false } && own is not null && Build(page, known) is { } once)
            cases.Add(new IdCase("twice", parameter.Name, $"{once}&{parameter.Name}={Uri.EscapeDataString(own)}", null));

        void Add(string kind, string? text, OutcomeKind? expected)
        {
            var texts = known.ToArray();
            texts[at] = text;
            if ((Build(page, texts) ?? (text is null ? Without(page, known, parameter.Name) : null)) is { } address)
                cases.Add(new IdCase(kind, parameter.Name, address, expected?.Word));
        }
    }

    /// <summary>The outcome of a page that shows what it is for.</summary>
    private static string Found(Page page) =>
        page.Head.Definition.Kind.Parameters switch
        {
            ParameterRole.Filters => OutcomeKind.Listed.Word,
            ParameterRole.Id => OutcomeKind.Found.Word,
            _ => OutcomeKind.Shown.Word,
        };

    /// <summary>
    /// The texts of the page's parameters in the sample; something likely for those that it lacks and the path needs.
    /// </summary>
    private static string?[] Given(Page page, SampleAddress? sample) =>
        [
            .. page.Parameters.Select(
                (parameter, i) =>
                    sample is not null && i < sample.Ids.Count && sample.Ids[i].Length > 0 ? sample.Ids[i]
                    : parameter.Segment < 0 && !parameter.Required ? null
                    : Unlikely.FirstOrDefault(text => IsCanonical(parameter, text))
            ),
        ];

    private static bool IsCanonical(PageParameter parameter, string text) =>
        text.Length > 0 && parameter.Key.Read(text) is { Value: { } value } && parameter.Key.Write(value) == text;

    /// <summary>The same ID in another spelling; null if it has none.</summary>
    private static string? Otherwise(PageParameter parameter, string id) =>
        new[]
        {
            "0" + id,
            id.ToUpper(CultureInfo.InvariantCulture),
            id.ToLower(CultureInfo.InvariantCulture),
            id + " ",
        }.FirstOrDefault(text =>
            text != id && parameter.Key.Read(text) is { Value: { } value } && parameter.Key.Write(value) == id
        );

    /// <summary>The address without a parameter of the query string that the page needs: no link leads there.</summary>
    private static string? Without(Page page, string?[] known, string name)
    {
        if (Build(page, known) is not { } address || address.IndexOf('?') is not (> 0 and var query))
            return null;
        var rest = address[(query + 1)..]
            .Split('&')
            .Where(pair => !pair.StartsWith(name + "=", StringComparison.Ordinal))
            .ToList();
        return address[..query] + (rest.Count == 0 ? "" : "?" + string.Join('&', rest));
    }

    private static string? Build(Page page, string?[] texts)
    {
        using var address = new Utf8Buffer(256);
        return page.Head.Builder.TryBuild(new GivenTexts(texts), address) ? address.ToString() : null;
    }
}
