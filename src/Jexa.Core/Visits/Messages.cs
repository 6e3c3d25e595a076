using Jexa.Core.Addresses;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>
/// The texts of answers without a record, for visitors, each with links to go on. They say nothing of sources, queries or reasons
/// that are only for the developer.
/// </summary>
internal static class Messages
{
    private const int ShownId = 60;

    public static MessageView NoPage(Site site, RequestTarget target)
    {
        var nearest = NearAddresses.Of(site, target);
        return new MessageView(
            site.Frame,
            null,
            "no-page",
            404,
            "There is no page here",
            Sentences(
                site.NotFound is null ? "No page of this app has this address." : null,
                nearest.Count == 0 ? null : "These pages have addresses that are near to it:"
            ),
            null,
            null,
            nearest
        )
        {
            Markdown = site.NotFound?.Source,
        };
    }

    /// <summary>The stub of a page that is not written yet: what it will be, and what the link passes to it.</summary>
    public static MessageView Unwritten(Site site, UnwrittenPage page, RequestTarget target)
    {
        var passed = page
            .Parameters.Select(parameter =>
                (parameter.Name, Values: target.Query.Where(pair => pair.Name == parameter.Name).ToList(), parameter.Key)
            )
            .Where(one => one.Values is [{ Value: { } text }] && one.Key.Read(text).Fault == KeyFault.None)
            .Select(one => $"{one.Name} is {one.Values[0].Value}")
            .ToList();
        return new(
            site.Frame,
            null,
            "no-page",
            404,
            "This page is not there yet",
            Sentences(
                $"A link leads to the page “{Cut(page.Name)}”, which is still to be written.",
                page.Purpose.Length == 0 ? null : page.Purpose,
                passed.Count == 0 ? null : $"The link passes: {string.Join(", ", passed)}."
            ),
            null,
            null,
            Home(site)
        );
    }

    public static MessageView BadTarget(Site site) =>
        new(
            site.Frame,
            null,
            "malformed",
            400,
            "This address cannot be read",
            ["It holds characters or steps that no address can have.", "Please check how it was typed or copied."],
            null,
            null,
            Home(site)
        );

    public static MessageView Missing(Site site, RecordPage page, PageParameter parameter, int status) =>
        new(
            site.Frame,
            page.Name,
            "missing",
            status,
            $"Which {page.Record!.One}?",
            [$"The address names no {page.Record!.One}: {Described(page, parameter)} is missing.", Form(page, parameter)],
            parameter.Name,
            parameter.Key.Looks,
            Back(site, page)
        );

    public static MessageView Malformed(Site site, RecordPage page, PageParameter parameter, RawParameter raw, KeyFault fault)
    {
        var one = page.Record!.One;
        var said = fault switch
        {
            KeyFault.BadEncoding => $"The address cannot be read where it names the {one}.",
            KeyFault.GivenTwice => $"The address gives {parameter.Name} more than once.",
            KeyFault.OtherName => $"The address says “{Cut(raw.Text!)}” where this page reads “{parameter.Name}”.",
            KeyFault.OutOfRange => $"“{Cut(raw.Text!)}” is beyond the largest number that {A(one)} can have.",
            KeyFault.TooLong => $"The address is too long where it names the {one}.",
            _ => $"“{Cut(raw.Text!)}” is not {Described(page, parameter)}.",
        };
        return new MessageView(
            site.Frame,
            page.Name,
            "malformed",
            page.Ids.MalformedStatus,
            $"That is not {A(one)}’s address",
            [said, Form(page, parameter)],
            parameter.Name,
            parameter.Key.Looks,
            Back(site, page)
        );
    }

    public static MessageView MalformedControl(Site site, ListPage page, ListFault fault)
    {
        var (heading, said, expected) = fault.Name switch
        {
            _ when fault.Fault == KeyFault.OtherName => (
                "This list cannot be shown so",
                $"The address writes “{Cut(fault.Raw ?? "")}” where this page reads “{fault.Name}”.",
                fault.Name
            ),
            _ when fault.Fault == KeyFault.GivenTwice => (
                "This list cannot be shown so",
                $"The address says {fault.Name} more than once.",
                $"one {fault.Name}"
            ),
            ParameterReader.Find when !page.Plan.CanSearch => ("This list cannot be searched", "It has no search.", "no search"),
            ParameterReader.Find => (
                "This search is too long",
                $"A search goes by at most {ListPlan.MaxWords} words and 200 characters.",
                $"at most {ListPlan.MaxWords} words"
            ),
            ParameterReader.Order => (
                "This list cannot be put in that order",
                $"“{Cut(fault.Raw ?? "")}” is no column that it can be ordered by.",
                string.Join(", ", page.Shape.Columns.Select(column => column.OrderName).OfType<string>()) is { Length: > 0 } names
                    ? $"one of {names}, with a minus before it to turn it round"
                    : "nothing"
            ),
            ParameterReader.Size => (
                "This list cannot be cut into such parts",
                $"“{Cut(fault.Raw ?? "")}” is no number of rows that it can show at a time.",
                "one of " + string.Join(", ", page.Sizes)
            ),
            _ => (
                "This part of the list cannot be found",
                $"What the address says behind “{fault.Name}” is not a place in this list.",
                "a place that a link of this list leads to"
            ),
        };
        return new(
            site.Frame,
            page.Name,
            "malformed",
            400,
            heading,
            [said, "Please begin at the top of the list."],
            fault.Name,
            expected,
            BackToList(site, page)
        );
    }

    public static MessageView MalformedParameter(Site site, ListPage page, PageParameter parameter, ListFault fault)
    {
        var said = fault.Fault switch
        {
            KeyFault.BadEncoding => $"The address cannot be read where it says {parameter.Name}.",
            KeyFault.GivenTwice => $"The address says {parameter.Name} more than once.",
            KeyFault.OtherName => $"The address says “{Cut(fault.Raw!)}” where this page reads “{parameter.Name}”.",
            KeyFault.OutOfRange => $"“{Cut(fault.Raw!)}” is beyond what {parameter.Name} can be.",
            KeyFault.TooLong => $"The address is too long where it says {parameter.Name}.",
            KeyFault.TooMany => $"The address says {parameter.Name} too often.",
            KeyFault.MonthWithoutYear => $"The address says {parameter.Name} “{Cut(fault.Raw!)}”, but not of which year.",
            _ => $"“{Cut(fault.Raw!)}” is not {parameter.Key.Looks}.",
        };
        return new MessageView(
            site.Frame,
            page.Name,
            "malformed",
            page.Head.Definition.Ids.MalformedStatus,
            "This list cannot be shown so",
            [said, $"{Labels.Capital(parameter.Name)} is {parameter.Key.Looks}."],
            parameter.Name,
            parameter.Key.Looks,
            BackToList(site, page)
        );
    }

    public static MessageView Exclusive(Site site, Page page, Page rival, IReadOnlyList<string> names) =>
        new(
            site.Frame,
            page.Name,
            "malformed",
            400,
            "This address says two things at once",
            [$"It says {string.Join(" and ", names)}, and only one of the two can be shown.", "Please remove one of them."],
            names[0],
            $"one of {string.Join(", ", names)}",
            new[] { page, rival }
                .Select(one =>
                    one is RecordPage record ? record.Back
                    : (one as ListPage)?.AllOfThem is { } all ? new PlainLink(all.Name, all.Heading, all.OpenAddress!)
                    : null
                )
                .OfType<PlainLink>()
                .Distinct()
                .ToArray()
                is { Length: > 0 } links
                ? links
                : Home(site)
        );

    public static MessageView MissingParameter(Site site, ListPage page, PageParameter parameter, int status) =>
        new(
            site.Frame,
            page.Name,
            "missing",
            status,
            $"Which {Labels.OfRecord(parameter.Name)}?",
            [
                $"The address does not say of which {Labels.OfRecord(parameter.Name)} the {page.Record!.Many} are.",
                $"{Labels.Capital(parameter.Name)} is {parameter.Key.Looks}.",
            ],
            parameter.Name,
            parameter.Key.Looks,
            BackToList(site, page)
        );

    /// <summary>For a parent that does not exist or may not be seen.</summary>
    public static MessageView UnknownParent(
        Site site,
        ListPage page,
        ParentPlan parent,
        IReadOnlyList<IReadOnlyList<string>> texts
    ) =>
        new(
            site.Frame,
            page.Name,
            "unknown",
            404,
            $"There is no such {parent.Record.One}",
            [
                $"No {parent.Record.One} has "
                    + $"{IdsOf(page, parent, number => texts[number][0])}, "
                    + $"so it has no {page.Record!.Many}.",
            ],
            null,
            null,
            BackToList(site, page)
        );

    public static MessageView AmbiguousParent(Site site, ListPage page, ParentPlan parent) =>
        new(
            site.Frame,
            page.Name,
            "ambiguous",
            500,
            $"More than one {parent.Record.One} answers to this address",
            ["Nothing is listed, since it could be the wrong one's.", "The people who run this app can see what happened."],
            null,
            null,
            BackToList(site, page)
        );

    /// <summary>What a list says if the address of another list did not name what it is about.</summary>
    /// <param name="isAll">Whether this list is of the same records.</param>
    public static string LackingFilter(ListPage page, PageParameter parameter, bool isAll) =>
        $"The address you followed did not say of which {Labels.OfRecord(parameter.Name)} the "
        + $"{page.Record!.Many} are. {(isAll ? "Here are all of them." : "You can find it here.")}";

    /// <summary>For a record that does not exist or may not be seen.</summary>
    public static MessageView Unknown(Site site, RecordPage page, IReadOnlyList<string> ids) =>
        new(
            site.Frame,
            page.Name,
            "unknown",
            404,
            $"There is no such {page.Record!.One}",
            [$"No {page.Record!.One} has {IdSentence(page, ids)}."],
            null,
            null,
            Back(site, page)
        );

    /// <param name="address">The address of the record without a choice.</param>
    public static MessageView UnknownChoice(Site site, RecordPage page, ChoiceShape choice, string address) =>
        new(
            site.Frame,
            page.Name,
            "unknown",
            404,
            $"There is no such {choice.Shape.One} here",
            [$"This {page.Record!.One} has no {choice.Shape.One} of that ID."],
            choice.Parameter,
            null,
            [new PlainLink(page.Name, $"The {page.Record.One}", address), .. Back(site, page)]
        );

    public static MessageView Ambiguous(Site site, RecordPage page) =>
        new(
            site.Frame,
            page.Name,
            "ambiguous",
            500,
            $"More than one {page.Record!.One} answers to this address",
            ["None of them is shown, since it could be the wrong one.", "The people who run this app can see what happened."],
            null,
            null,
            Back(site, page)
        );

    public static MessageView MissingNew(Site site, NewPage page, PageParameter parameter, int status) =>
        new(
            site.Frame,
            page.Name,
            "missing",
            status,
            $"Which {Labels.OfRecord(parameter.Name)}?",
            [
                $"The address does not say to which {Labels.OfRecord(parameter.Name)} the new {page.Record!.One} belongs.",
                $"{Labels.Capital(parameter.Name)} is {parameter.Key.Looks}.",
            ],
            parameter.Name,
            parameter.Key.Looks,
            BackFromNew(site, page)
        );

    public static MessageView MalformedNew(Site site, NewPage page, PageParameter parameter, RawParameter raw, KeyFault fault)
    {
        var said = fault switch
        {
            KeyFault.BadEncoding => $"The address cannot be read where it says {parameter.Name}.",
            KeyFault.GivenTwice => $"The address says {parameter.Name} more than once.",
            KeyFault.OtherName => $"The address says “{Cut(raw.Text!)}” where this page reads “{parameter.Name}”.",
            _ => $"“{Cut(raw.Text!)}” is no {Labels.OfRecord(parameter.Name)}.",
        };
        return new MessageView(
            site.Frame,
            page.Name,
            "malformed",
            400,
            $"{Labels.Capital(A(page.Record!.One))} cannot be added so",
            [said, $"{Labels.Capital(parameter.Name)} is {parameter.Key.Looks}."],
            parameter.Name,
            parameter.Key.Looks,
            BackFromNew(site, page)
        );
    }

    /// <summary>For a parent that does not exist or may not be seen.</summary>
    public static MessageView UnknownParentOfNew(
        Site site,
        NewPage page,
        ParentPlan parent,
        IReadOnlyList<string?> texts,
        bool isAmbiguous
    ) =>
        isAmbiguous
            ? new(
                site.Frame,
                page.Name,
                "ambiguous",
                500,
                $"More than one {parent.Record.One} answers to this address",
                ["Nothing can be added, since it could become the wrong one's."],
                null,
                null,
                BackFromNew(site, page)
            )
            : new(
                site.Frame,
                page.Name,
                "unknown",
                404,
                $"There is no such {parent.Record.One}",
                [
                    $"No {parent.Record.One} has "
                        + $"{IdsOf(page, parent, number => texts[number])}, "
                        + $"so no {page.Record!.One} can be added to it.",
                ],
                null,
                null,
                BackFromNew(site, page)
            );

    /// <summary>What a list says if an address did not name the record that a new one belongs to.</summary>
    public static string LackingParent(NewPage page, PageParameter parameter) =>
        $"The address you followed did not say to which {Labels.OfRecord(parameter.Name)} the new "
        + $"{page.Record!.One} belongs. Choose one from this list.";

    private static PlainLink[] BackFromNew(Site site, NewPage page) => page.Cancel is { } list ? [list] : Home(site);

    /// <summary>For a record that was deleted through this app.</summary>
    public static MessageView Gone(Site site, RecordPage page, IReadOnlyList<string> ids) =>
        new(
            site.Frame,
            page.Name,
            "gone",
            410,
            $"This {page.Record!.One} is not there any more",
            [$"The {page.Record!.One} with {IdSentence(page, ids)} was deleted."],
            null,
            null,
            Back(site, page)
        );

    /// <summary>For a form or change that did not come from a page of this app.</summary>
    public static MessageView Untrusted(Site site, Page page, string why) =>
        new(
            site.Frame,
            page.Name,
            "untrusted",
            403,
            "This was not sent from here",
            [why, "Nothing was changed. Please open the page here and send it again."],
            null,
            null,
            page.Head.OpenAddress is { } address ? [new PlainLink(page.Name, page.Head.LinkText, address)] : Home(site)
        );

    public static MessageView Unreadable(Site site, Page page, SentFault fault)
    {
        var (status, said) = fault switch
        {
            SentFault.TooLarge => (413, "It is larger than anything that can be kept here."),
            SentFault.OtherType => (415, "It is neither a form of this page nor JSON."),
            SentFault.NotText => (400, "It is not text in UTF-8, or holds a character that no text can have."),
            _ => (400, "It did not arrive whole, or is not what a form or a program sends."),
        };
        return new MessageView(
            site.Frame,
            page.Name,
            "unreadable",
            status,
            "What was sent cannot be read",
            [said, "Nothing was changed."],
            null,
            null,
            Home(site)
        );
    }

    /// <summary>For a change whose result is not known yet: another one from the same form is being made.</summary>
    public static MessageView InFlight(Site site, Page page) =>
        new(
            site.Frame,
            page.Name,
            "unavailable",
            503,
            "This is being saved already",
            ["The same form was sent before, and that is still going on.", "Please look in a moment whether it was saved."],
            null,
            null,
            Home(site)
        );

    public static string IdsOf(RecordPage page, IReadOnlyList<string> ids) => IdSentence(page, ids);

    public static MessageView NotAllowed(Site site, Page page) =>
        new(
            site.Frame,
            page.Name,
            "not-allowed",
            405,
            page.Methods == Page.Reading ? "This page can only be read" : "This page does not take that",
            [
                page.Methods == Page.Reading
                    ? "Nothing can be sent to this address, and nothing was changed."
                    : $"It takes {page.Methods}. Nothing was changed.",
            ],
            null,
            null,
            page.Head.OpenAddress is { } address ? [new PlainLink(page.Name, page.Head.LinkText, address)] : Home(site)
        );

    public static MessageView Unavailable(Site site, Page? page) =>
        new(
            site.Frame,
            page?.Name,
            "unavailable",
            503,
            "This page is not available just now",
            ["The data behind it cannot be reached or takes too long to answer.", "Please try again in a moment."],
            null,
            null,
            Home(site)
        );

    public static MessageView Failed(Site site, Page? page) =>
        new(
            site.Frame,
            page?.Name,
            "failed",
            500,
            "Something went wrong here",
            ["The page could not be made; nothing was changed.", "The people who run this app can see what happened."],
            null,
            null,
            Home(site)
        );

    /// <summary>What a list says if an address without an ID led here.</summary>
    public static string Lacking(RecordPage page, PageParameter parameter) =>
        $"The address you followed lacked {Described(page, parameter)}, which tells one "
        + $"{page.Record!.One} from all others. Choose {A(page.Record!.One)} from this list.";

    private static string Form(RecordPage page, PageParameter parameter) =>
        $"{Labels.Capital(Described(page, parameter))} is {parameter.Key.Looks}.";

    /// <summary>“a bridge’s ID” for the key itself, “a bridge’s code” for another field.</summary>
    private static string Described(RecordPage page, PageParameter parameter) =>
        $"{A(page.Record!.One)}’s {Noun(page, parameter)}";

    private static string Noun(RecordPage page, PageParameter parameter) =>
        page.Record!.Key is [var only] && only == parameter.Field ? "ID" : Labels.OfRecord(parameter.Field.Name);

    private static string IdSentence(RecordPage page, IReadOnlyList<string> ids) =>
        string.Join(" and ", page.Parameters.Select((parameter, i) => $"the {Noun(page, parameter)} “{Cut(ids[i])}”"));

    private static string A(string noun) => ("aeiou".Contains(char.ToLowerInvariant(noun[0])) ? "an " : "a ") + noun;

    private static PlainLink[] Back(Site site, RecordPage page) =>
        page.Back is { } back ? [back with { Text = $"All {page.Record!.Many}" }] : Home(site);

    /// <summary>The ID of a parent, in a sentence: “the bridge “7” and the number “2””.</summary>
    private static string IdsOf(Page page, ParentPlan parent, Func<int, string?> textOf) =>
        string.Join(
            " and ",
            parent.Parameters.Select(number =>
                $"the {Labels.OfRecord(page.Parameters[number].Name)} “{Cut(textOf(number) ?? "")}”"
            )
        );

    private static List<string> Sentences(params IEnumerable<string?> sentences) => [.. sentences.OfType<string>()];

    private static PlainLink[] BackToList(Site site, ListPage page) =>
        page.Head.OpenAddress is { } own ? [new PlainLink(page.Name, page.Shape.Heading, own)]
        : page.AllOfThem is { } all ? [new PlainLink(all.Name, all.Heading, all.OpenAddress!)]
        : Home(site);

    private static PlainLink[] Home(Site site) =>
        [new PlainLink(site.Home?.Name ?? "", $"Start of {site.Frame.AppTitle}", site.Frame.HomeAddress)];

    private static string Cut(string text)
    {
        if (text.Length <= ShownId)
            return text;
        var end = char.IsHighSurrogate(text[ShownId - 1]) ? ShownId - 1 : ShownId;
        return text[..end] + "…";
    }
}
