namespace Jexa.Core.Definitions;

/// <summary>Reads one page of an app file.</summary>
internal static class PageReader
{
    private static readonly string[] Looks = ["table", "cards", "bullets"];

    /// <summary>What to say of a key on a page whose kind does not have it.</summary>
    private static readonly (string Key, string Otherwise)[] OwnKeys =
    [
        ("order", "Only a list has an order."),
        ("by", "Only a page about one record has an ID."),
        ("ids", "This page has no ID and no parameter that must be there."),
        ("required", "The parameters of this page are required anyway."),
        ("search", "Only a list has a search box."),
        ("size", "Only a list has windows."),
        ("look", "Only a list has a look."),
        ("side", "Only a list has side lists."),
        ("related", "Only a record has related ones."),
        ("beside", "Only a record stands beside a list."),
        ("neighbours", "Only a record has neighbours."),
        ("play_on", "Only a record has a recording, and a next record."),
        ("show", "Only lists, detail pages and delete pages show fields; a form has “form”."),
        ("where", "This page has no records to choose from."),
        ("links", "A text page says its links in its text; a new record leads nowhere yet."),
        ("form", "Only edit and new pages have a form."),
        ("then", "Only a page that changes records leads somewhere after."),
        ("forms", "Only a record's page makes pages that change it; the fields of a form are said by “form”."),
        ("lists", "Only a text page shows the lists of the app."),
        ("finds", "Only a text page searches several lists; a list has “search”."),
        ("add", "Only a list leads to a new record."),
        ("body", "A text page is its text."),
    ];

    private static readonly System.Buffers.SearchValues<char> NotInBases = System.Buffers.SearchValues.Create("{}\\\"<> ?#");

    private static readonly string KindWords =
        $"{string.Join(", ", PageKind.All.SkipLast(1).Select(kind => kind.Word))} or {PageKind.All[^1].Word}";

    public static PageDefinition? Read(Written name, MappingReader page, FindingList findings)
    {
        var path = page.RequiredText("path", $"/{name}");
        var kind = Kind(name, page, findings);
        var what = kind is null ? null : page.Text(kind.Word);
        var (then, thenWith) = ReadThen(page, findings);
        var definition = new PageDefinition
        {
            Name = name,
            Path = path ?? name,
            Was = page.Texts("was"),
            DrawnAt = ReadBase(page, findings),
            Kind = kind ?? PageKind.Text,
            Record = what is not null && kind!.HasRecord ? what : new Written("", (what ?? name).At),
            Text = kind?.HasRecord == false ? what : null,
            Title = page.Text("title"),
            Show = page.Texts("show"),
            Order = [.. page.Texts("order").Select(ReadOrder)],
            Links = [.. page.Items("links").Select(item => ReadLink(item, findings)).OfType<LinkDefinition>()],
            By = ReadPairs(page, "by", findings),
            Where = ConditionReader.Read(page, "where", findings),
            Required = page.Texts("required"),
            Search = page.Texts("search"),
            Size = page.Number("size", 1, 500),
            Look = ReadLook(page, findings),
            Side = [.. page.Items("side").Select(item => ReadSide(item, findings)).OfType<SideDefinition>()],
            Related = [.. page.Items("related").Select(item => ReadRelated(item, findings)).OfType<RelatedDefinition>()],
            Beside = page.Text("beside"),
            NeighboursHidden = Word(page, "neighbours", "answer called", ["shown", "hidden"], findings) == "hidden",
            PlaysOn = page.Flag("play_on"),
            Menu = ReadMenu(page, findings),
            Ids = ReadIds(page, findings),
            Form = page.Texts("form"),
            Then = then,
            ThenWith = thenWith,
            Add = page.Text("add"),
            Forms = ReadForms(page, findings),
            Finds = page.Texts("finds"),
            Body = page.Text("body"),
            LinkedElsewhere = Word(page, "linked", "place of links called", ["elsewhere"], findings) is not null,
            ShowsLists = Word(page, "lists", "choice of lists called", ["all"], findings) is not null,
        };
        foreach (var (key, otherwise) in OwnKeys)
            if (kind is not null && !kind.Keys.Contains(key) && page.Has(key))
                findings.Add(FindingCodes.KeyOfOtherPageKind, page.PlaceOf(key), otherwise, $"Remove “{key}”.", found: key);
        return kind is null || path is null || what is null ? null : definition;
    }

    private static IReadOnlyList<Written> ReadForms(MappingReader page, FindingList findings)
    {
        var forms = page.Texts("forms");
        foreach (var word in forms.Where(word => !FormPages.Kinds.Contains(word.Value)))
            findings.AddUnknown(FindingCodes.UnknownWord, word, "form called", FormPages.Kinds);
        return forms;
    }

    /// <summary>The key's value, which must be one of a few words; null if the page does not have the key.</summary>
    private static string? Word(MappingReader page, string key, string what, string[] words, FindingList findings)
    {
        if (page.Text(key) is not { } word)
            return null;
        if (!words.Contains(word.Value))
            findings.AddUnknown(FindingCodes.UnknownWord, word, what, words);
        return word.Value;
    }

    /// <summary><c>then: PAGE</c>, or <c>then: { to: PAGE, with: { PARAMETER: FIELD } }</c>.</summary>
    private static (Written? Page, List<PassDefinition> With) ReadThen(MappingReader page, FindingList findings)
    {
        if (page.Value("then") is not MappingNode node)
            return (page.Text("then"), []);
        if (MappingReader.Of(node, "“then”", findings) is not { } then)
            return (null, []);
        var to = then.RequiredText("to", "PAGE");
        var with = ReadPairs(then, "with", findings);
        then.Finish();
        return (to, with);
    }

    /// <summary>The address below which another program draws the page.</summary>
    private static Written? ReadBase(MappingReader page, FindingList findings)
    {
        if (page.Text("drawn_at") is not { } given)
            return null;
        if (
            Uri.TryCreate(given.Value, UriKind.Absolute, out var address)
            && address.Scheme is "http" or "https"
            && address is { UserInfo: "", Query: "", Fragment: "" }
            && System.Text.Ascii.IsValid(given.Value)
            && !given.Value.AsSpan().ContainsAny(NotInBases)
        )
            return given with { Value = given.Value.TrimEnd('/') };
        findings.Add(
            FindingCodes.UnknownWord,
            given.At,
            $"“{given}” is no base address.",
            "Write scheme, host, port and perhaps a path; the page's own path is put behind it.",
            found: given.Value,
            expected: "such as https://app.example or http://127.0.0.1:5173/register"
        );
        return null;
    }

    private static PageKind? Kind(Written name, MappingReader page, FindingList findings)
    {
        var kinds = PageKind.All.Where(kind => page.Has(kind.Word)).ToList();
        if (kinds.Count == 1)
            return kinds[0];
        var (code, say) =
            kinds.Count == 0
                ? (FindingCodes.MissingKey, $"does not say whether it is a {KindWords} page")
                : (FindingCodes.WrongShape, $"is said to be {string.Join(" and ", kinds)} at once");
        findings.Add(
            code,
            page.At,
            $"The page “{name}” {say}.",
            $"Add one of these lines: {string.Join(", ", PageKind.All.Select(Line))}.",
            expected: KindWords
        );
        return null;
    }

    private static string Line(PageKind kind) => $"{kind.Word}: {(kind.HasRecord ? "RECORD" : "TEXT")}";

    private static Written? ReadLook(MappingReader owner, FindingList findings)
    {
        if (owner.Text("look") is not { } word || Looks.Contains(word.Value))
            return owner.Text("look");
        findings.AddUnknown(FindingCodes.UnknownWord, word, "look of a list called", Looks);
        return null;
    }

    /// <summary><c>menu: 3</c>, or <c>menu: hidden</c> for a page that is not in the menu.</summary>
    private static MenuPlace ReadMenu(MappingReader page, FindingList findings)
    {
        if (page.Text("menu") is not { } word)
            return default;
        if (word.Value == "hidden")
            return new MenuPlace(true, null);
        if (int.TryParse(word.Value, out var place) && place is >= 0 and <= 1000)
            return new MenuPlace(false, place);
        findings.Add(
            FindingCodes.UnknownWord,
            word.At,
            $"“{word}” is not a place in the menu.",
            "Write a number, or hidden.",
            found: word.Value,
            expected: "a whole number from 0 to 1,000, or hidden"
        );
        return default;
    }

    private static OrderDefinition ReadOrder(Written word) =>
        word.Value.StartsWith('-')
            ? new OrderDefinition(word with { Value = word.Value[1..], At = word.At.Right(1) }, true)
            : new OrderDefinition(word, false);

    private static LinkDefinition? ReadLink(Node node, FindingList findings)
    {
        if (MappingReader.Of(node, "a link", findings) is not { } link)
            return null;
        var to = link.RequiredText("to", "PAGE");
        var column = link.Text("column");
        var text = link.Text("text");
        var on = link.Text("on");
        if (on is not null and not { Value: "row" })
        {
            findings.Add(
                FindingCodes.UnknownWord,
                on.At,
                $"“on” puts a link on the whole row, and “{on}” is not row.",
                $"To put the link on a column of the list, write column: {on}.",
                found: on.Value,
                expected: "row"
            );
        }

        var with = ReadPairs(link, "with", findings);
        var when = ConditionReader.Read(link, "when", findings);
        link.Finish();
        return to is null ? null : new LinkDefinition(to, column, text, on is not null, with, when);
    }

    private static SideDefinition? ReadSide(Node node, FindingList findings)
    {
        if (node is ScalarNode { Text: { } field })
            return new SideDefinition(field, null, null, null, false);
        if (MappingReader.Of(node, "a side list", findings) is not { } side)
            return null;
        var by = side.RequiredText("by", "FIELD");
        var part = side.Text("part");
        var to = side.Text("to");
        var title = side.Text("title");
        side.Finish();
        if (part is not null and not { Value: "year" or "month" })
            findings.AddUnknown(FindingCodes.UnknownWord, part, "part of a date called", ["year", "month"]);
        if (by is null)
            return null;
        var order = ReadOrder(by);
        return new SideDefinition(order.Field, part, to, title, order.Descending);
    }

    private static RelatedDefinition? ReadRelated(Node node, FindingList findings)
    {
        if (node is ScalarNode { Text: { } record })
            return new RelatedDefinition(node.At, record, null, null, [], [], null, null, null, [], null, false);
        if (MappingReader.Of(node, "a related block", findings) is not { } block)
            return null;
        var kind = block.Text("record");
        var list = block.Text("list");
        var notice = block.Text("notice");
        var related = new RelatedDefinition(
            node.At,
            kind ?? list,
            block.Text("by"),
            block.Text("title"),
            block.Texts("show"),
            [.. block.Texts("order").Select(ReadOrder)],
            block.Number("size", 1, 100),
            block.Text("all"),
            ReadLook(block, findings),
            ConditionReader.Read(block, "where", findings),
            notice,
            list is not null
        )
        {
            Tied = ReadPairs(block, "tied", findings),
            Choose = block.Text("choose"),
        };
        block.Finish();
        if ((kind is null ? 0 : 1) + (list is null ? 0 : 1) + (notice is null ? 0 : 1) == 1)
            return related;
        findings.Add(
            FindingCodes.WrongShape,
            block.At,
            "A block says one of three things: related records, a list, or a notice.",
            "Write record: RECORD, list: RECORD or notice: TEXT.",
            expected: "one of record, list, notice"
        );
        return null;
    }

    private static List<PassDefinition> ReadPairs(MappingReader owner, string key, FindingList findings)
    {
        var pairs = new List<PassDefinition>();
        if (owner.Value(key) is not { } node || MappingReader.Of(node, $"“{key}”", findings) is not { } section)
            return pairs;
        foreach (var (parameter, value) in section.Named)
            if (MappingReader.AsText(value, parameter.Value, findings) is { } field)
                pairs.Add(new PassDefinition(parameter, field));
        return pairs;
    }

    private static IdAnswers ReadIds(MappingReader page, FindingList findings)
    {
        if (page.Value("ids") is not { } node || MappingReader.Of(node, "“ids”", findings) is not { } ids)
            return IdAnswers.Default;
        var missing = ids.Text("missing");
        var malformed = ids.Text("malformed");
        var unknown = ids.Text("unknown");
        ids.Finish();
        if (malformed is not null and not { Value: "400" or "404" })
            findings.AddUnknown(FindingCodes.UnknownWord, malformed, "answer to a malformed ID called", ["400", "404"]);
        if (unknown is not null and not { Value: "404" })
            findings.AddUnknown(FindingCodes.UnknownWord, unknown, "answer to an unknown ID called", ["404"]);
        return new IdAnswers(
            missing is { Value: "400" or "404" } ? null : missing,
            missing is { Value: "400" or "404" } ? int.Parse(missing.Value) : null,
            malformed?.Value == "404" ? 404 : 400
        );
    }
}
