using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>
/// Puts each outcome that shows no record into words that a visitor understands, with a way on. Nothing here tells what is
/// behind the page: no source, no query, no reason that only the developer may know.
/// </summary>
internal static class Messages
{
    private const int ShownId = 60;
    private const int NearestPages = 3;

    public static MessageView NoPage(Site site, RequestTarget target)
    {
        var path = target.Path.Length <= 200 ? target.Path.ToString() : target.Path[..200].ToString();
        var nearest = site.Pages.Where(page => page.Head.Builder.Fixed is not null).Take(200)
            .OrderBy(page => Nearest.Distance((site.Frame.Mount.Text + path).ToLowerInvariant(), page.Head.Builder.Fixed!.ToLowerInvariant()))
            .Take(NearestPages)
            .Select(page => new PlainLink(page.Name, LinkCompiler.PageText(page.Head), page.Head.Builder.Fixed!)).ToList();
        return new MessageView(site.Frame, null, "no-page", 404, "There is no page here",
            nearest.Count == 0 ? ["No page of this app has this address."]
                : ["No page of this app has this address.", "These pages have addresses that are near to it:"],
            null, null, nearest);
    }

    public static MessageView Unwritten(Site site, string page) =>
        new(site.Frame, null, "no-page", 404, "This page is not there yet",
            [$"A link leads to the page “{Cut(page)}”, which is still to be written."], null, null, Home(site));

    public static MessageView BadTarget(Site site) =>
        new(site.Frame, null, "malformed", 400, "This address cannot be read",
            ["It holds characters or steps that no address can have.", "Please check how it was typed or copied."], null, null, Home(site));

    public static MessageView Missing(Site site, DetailPage page, PageParameter parameter, int status) =>
        new(site.Frame, page.Name, "missing", status, $"Which {page.Record.One}?",
            [$"The address names no {page.Record.One}: {Described(page, parameter)} is missing.", Form(page, parameter)],
            parameter.Name, parameter.Key.Looks, Back(site, page));

    public static MessageView Malformed(Site site, DetailPage page, PageParameter parameter, RawParameter raw, KeyFault fault)
    {
        var one = page.Record.One;
        var said = fault switch
        {
            KeyFault.BadEncoding => $"The address cannot be read where it names the {one}.",
            KeyFault.GivenTwice => $"The address gives {parameter.Name} more than once.",
            KeyFault.OtherName => $"The address says “{Cut(raw.Text!)}” where this page reads “{parameter.Name}”.",
            KeyFault.OutOfRange => $"“{Cut(raw.Text!)}” is beyond the largest number that {A(one)} can have.",
            KeyFault.TooLong => $"The address is too long where it names the {one}.",
            _ => $"“{Cut(raw.Text!)}” is not {Described(page, parameter)}.",
        };
        return new MessageView(site.Frame, page.Name, "malformed", page.Ids.MalformedStatus, $"That is not {A(one)}’s address",
            [said, Form(page, parameter)], parameter.Name, parameter.Key.Looks, Back(site, page));
    }

    public static MessageView MalformedControl(Site site, ListPage page, string control, KeyFault fault) =>
        new(site.Frame, page.Name, "malformed", 400, "This part of the list cannot be found",
            [fault == KeyFault.OtherName ? $"The address writes “{control}” in another way than this page reads it."
                : $"What the address says behind “{control}” is not a place in this list.", "Please begin at the top of the list."],
            control, "a place that a link of this list leads to", [new PlainLink(page.Name, page.Shape.Heading, page.Shape.Address)]);

    /// <summary>For a record that is not there and for one that may not be seen alike.</summary>
    public static MessageView Unknown(Site site, DetailPage page, IReadOnlyList<string> ids) =>
        new(site.Frame, page.Name, "unknown", 404, $"There is no such {page.Record.One}",
            [$"No {page.Record.One} has {IdSentence(page, ids)}."], null, null, Back(site, page));

    public static MessageView Ambiguous(Site site, DetailPage page) =>
        new(site.Frame, page.Name, "ambiguous", 500, $"More than one {page.Record.One} answers to this address",
            ["None of them is shown, since it could be the wrong one.", "The people who run this app can see what happened."], null, null,
            Back(site, page));

    public static MessageView NotAllowed(Site site, Page page) =>
        new(site.Frame, page.Name, "not-allowed", 405, "This page can only be read", ["Nothing can be sent to this address, and nothing was changed."],
            null, null, page.Head.Builder.Fixed is { } address ? [new PlainLink(page.Name, LinkCompiler.PageText(page.Head), address)] : Home(site));

    public static MessageView Unavailable(Site site, Page? page) =>
        new(site.Frame, page?.Name, "unavailable", 503, "This page is not available just now",
            ["The data behind it cannot be reached or takes too long to answer.", "Please try again in a moment."], null, null, Home(site));

    public static MessageView Failed(Site site, Page? page) =>
        new(site.Frame, page?.Name, "failed", 500, "Something went wrong here",
            ["The page could not be made; nothing was changed.", "The people who run this app can see what happened."], null, null, Home(site));

    /// <summary>The sentence a list shows a visitor who was led there for lack of an ID.</summary>
    public static string Lacking(DetailPage page, PageParameter parameter) =>
        $"The address you followed lacked {Described(page, parameter)}, which tells one {page.Record.One} from all others. Choose {A(page.Record.One)} from this list.";

    private static string Form(DetailPage page, PageParameter parameter) =>
        $"{Labels.Capital(Described(page, parameter))} is {parameter.Key.Looks}.";

    /// <summary>“a bridge’s ID” for the key itself, “a bridge’s code” for another field.</summary>
    private static string Described(DetailPage page, PageParameter parameter) => $"{A(page.Record.One)}’s {Noun(page, parameter)}";

    private static string Noun(DetailPage page, PageParameter parameter) =>
        page.Record.Key is [var only] && only == parameter.Field ? "ID" : Labels.OfRecord(parameter.Field.Name);

    private static string IdSentence(DetailPage page, IReadOnlyList<string> ids) =>
        string.Join(" and ", page.Parameters.Select((parameter, i) => $"the {Noun(page, parameter)} “{Cut(ids[i])}”"));

    private static string A(string noun) => ("aeiou".Contains(char.ToLowerInvariant(noun[0])) ? "an " : "a ") + noun;

    private static PlainLink[] Back(Site site, DetailPage page) =>
        page.Shape.Back is { } back ? [back with { Text = $"All {page.Record.Many}" }] : Home(site);

    private static PlainLink[] Home(Site site) => [new PlainLink(site.Home?.Name ?? "", $"Start of {site.Frame.AppTitle}", site.Frame.HomeAddress)];

    private static string Cut(string text)
    {
        if (text.Length <= ShownId) return text;
        var end = char.IsHighSurrogate(text[ShownId - 1]) ? ShownId - 1 : ShownId;
        return text[..end] + "…";
    }
}
