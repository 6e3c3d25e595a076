using Jexa.Core.Definitions;
using Jexa.Core.Formats;

namespace Jexa.Core.Rewriting;

/// <summary>Named changes of whole pages, made to the text of an app file.</summary>
public static class PageChanges
{
    /// <summary>Adds pages for a record kind: those of the given kinds, linked with each other by what is implied.</summary>
    /// <param name="record">The name of the record kind.</param>
    /// <param name="key">The fields of its key, which become the parameters of the paths.</param>
    /// <param name="kinds">The kinds of pages to add.</param>
    /// <returns>The names of the new pages.</returns>
    /// <exception cref="RewriteException">A page of that name is there already, or the text cannot be changed.</exception>
    public static IReadOnlyList<string> Add(
        FileRewriter file,
        string record,
        IReadOnlyList<string> key,
        IReadOnlyList<PageKind> kinds
    )
    {
        var many = Labels.Plural(Labels.OfRecord(record)).Replace(' ', '-');
        var id = string.Concat(key.Select(field => $"/{{{field}}}"));
        var forms = kinds.Where(kind => kind.Writes).ToList();
        var hasDetail = kinds.Contains(PageKind.Detail);
        var names = new List<string>();
        if (kinds.Contains(PageKind.List))
            Add(many, $"path: /{many}, list: {record}");
        if (hasDetail)
        {
            var implied = forms.Count == 0 ? "" : $", forms: [{string.Join(", ", forms.Select(kind => kind.Word))}]";
            Add(record, $"path: \"/{many}{id}\", detail: {record}{implied}");
            names.AddRange(forms.Select(kind => $"{record}-{kind.Word}"));
        }

        foreach (var kind in hasDetail ? [] : forms)
            Add($"{record}-{kind.Word}", $"path: \"/{many}{(kind.HasId ? id : "")}/{kind.Word}\", {kind.Word}: {record}");
        return names;

        void Add(string name, string keys)
        {
            if (file.Find("pages", name) is not null)
                throw new RewriteException($"The page “{name}” is there already.");
            file.AddLines(["pages"], null, name, [$"{name}: {{ {keys} }}"]);
            names.Add(name);
        }
    }

    /// <summary>Adds one page.</summary>
    /// <param name="record">The record kind that it shows; for a text page the text.</param>
    /// <param name="key">The fields of the record's key.</param>
    /// <exception cref="RewriteException">The name is none or taken, or the record has no key and needs one.</exception>
    public static void AddOne(FileRewriter file, string name, PageKind kind, string record, IReadOnlyList<string> key)
    {
        if (!AppFileReader.IsName(name))
            throw new RewriteException($"“{name}” is no name for a page.");
        if (file.Find("pages", name) is not null)
            throw new RewriteException($"The page “{name}” is there already.");
        if (kind.HasId && key.Count == 0)
            throw new RewriteException($"The key of “{record}” is not known: add key: FIELD to the record.");
        var id = kind.HasId ? string.Concat(key.Select(field => $"/{{{field}}}")) : "";
        var path = FileValue.Of($"/{name}{id}");
        var value = FileValue.Of(("path", path), (kind.Word, FileValue.Of(record)));
        file.AddLines(["pages"], null, name, [$"{name}: {ValueText.Flow(value)}"]);
    }

    /// <summary>Whether a record kind has a page of a kind, written out or made by <c>forms</c>.</summary>
    public static bool Has(FileRewriter file, string record, PageKind kind) =>
        file.Keys("pages")
            .Any(page =>
                file.Find("pages", page, kind.Word) == FileValue.Of(record)
                || (
                    file.Find("pages", page, PageKind.Detail.Word) == FileValue.Of(record)
                    && file.Find("pages", page, "forms") is FileValue.List forms
                    && forms.Items.Contains(FileValue.Of(kind.Word))
                )
            );

    /// <summary>
    /// Renames a page and everything in the file that names it: links, menus, answers, texts with <c>page:NAME</c>, and the pages
    /// that its <c>forms</c> stands for. A heading that was made from the name is written out first.
    /// </summary>
    /// <returns>The new names of all pages that have another one now, by their old names.</returns>
    /// <exception cref="RewriteException">There is no such page, the new name is taken, or the text cannot be
    /// changed.</exception>
    public static IReadOnlyDictionary<string, string> Rename(FileRewriter file, string old, string name)
    {
        if (file.Find("pages", old) is not FileValue.Map page)
            throw new RewriteException($"There is no page “{old}”.");
        if (file.Find("pages", name) is not null)
            throw new RewriteException($"The page “{name}” is there already.");
        if (!AppFileReader.IsName(name))
            throw new RewriteException($"“{name}” is no name for a page.");
        var keys = page.Entries.Select(entry => entry.Key).ToHashSet();
        if (
            !keys.Contains("title")
            && (keys.Contains("list") || keys.Contains("text"))
            && Labels.OfPage(old) != Labels.OfPage(name)
        )
            file.Set(["pages", old, "title"], FileValue.Of(Labels.OfPage(old)));
        file.Rename(["pages", old], name);
        var renamed = new Dictionary<string, string> { [old] = name };
        foreach (var form in (file.Find("pages", name, "forms") as FileValue.List)?.Items.OfType<FileValue.Text>() ?? [])
            renamed[$"{old}-{form.Value}"] = $"{name}-{form.Value}";
        RenameIn(file, renamed);
        return renamed;
    }

    /// <summary>Removes a page. What names it is left, and <c>check</c> says what that is.</summary>
    /// <exception cref="RewriteException">There is no such page, or the text cannot be changed.</exception>
    public static void Remove(FileRewriter file, string name)
    {
        if (file.Find("pages", name) is null)
            throw new RewriteException($"There is no page “{name}”.");
        file.Remove(["pages", name]);
    }

    /// <summary>The Markdown files that an app file names.</summary>
    public static IReadOnlyList<string> TextFiles(FileValue file) =>
        [
            .. Texts(file, [])
                .Select(pair => pair.Text)
                .Where(text => text.EndsWith(".md", StringComparison.Ordinal) && !text.Contains('\n'))
                .Distinct(),
        ];

    /// <summary>A text with its links to pages, <c>page:NAME</c>, renamed.</summary>
    public static string RenameInText(string text, IReadOnlyDictionary<string, string> renamed)
    {
        var made = new System.Text.StringBuilder();
        var at = 0;
        while (text.IndexOf(PageWord, at, StringComparison.Ordinal) is >= 0 and var word)
        {
            var start = word + PageWord.Length;
            var end = start;
            while (end < text.Length && (char.IsAsciiLetterOrDigit(text[end]) || text[end] is '-' or '_'))
                end++;
            var isWord = word == 0 || !char.IsAsciiLetterOrDigit(text[word - 1]);
            made.Append(text, at, start - at)
                .Append(isWord ? renamed.GetValueOrDefault(text[start..end], text[start..end]) : text[start..end]);
            at = end;
        }

        return made.Append(text, at, text.Length - at).ToString();
    }

    private const string PageWord = "page:";

    /// <summary>Renames pages wherever the file names them.</summary>
    private static void RenameIn(FileRewriter file, IReadOnlyDictionary<string, string> renamed)
    {
        var changes = new List<(IReadOnlyList<string> Place, FileValue Value)>();
        foreach (var (place, text) in Texts(file.Value, []))
        {
            var now = IsPageName(place) ? renamed.GetValueOrDefault(text, text) : RenameInText(text, renamed);
            if (now != text)
                changes.Add((place, FileValue.Of(now)));
        }

        file.SetAll(changes);
    }

    /// <summary>Whether the value at a place is the name of a page.</summary>
    private static bool IsPageName(IReadOnlyList<string> place) =>
        place switch
        {
            ["home"] or ["not_found"] => true,
            ["pages", _, "beside" or "add" or "then"] => true,
            ["pages", _, "then", "to"] => true,
            ["pages", _, "ids", "missing"] => true,
            ["pages", _, "links", _, "to"] or ["pages", _, "side", _, "to"] => true,
            ["pages", _, "related", _, "all" or "add"] => true,
            _ => false,
        };

    /// <summary>All texts of a file, each with its place.</summary>
    internal static IEnumerable<(IReadOnlyList<string> Place, string Text)> Texts(FileValue value, IReadOnlyList<string> place) =>
        value switch
        {
            FileValue.Text text => [(place, text.Value)],
            FileValue.List list => list.Items.SelectMany(
                (item, i) => Texts(item, [.. place, i.ToString(System.Globalization.CultureInfo.InvariantCulture)])
            ),
            FileValue.Map map => map.Entries.SelectMany(entry => Texts(entry.Value, [.. place, entry.Key])),
            _ => [],
        };
}
