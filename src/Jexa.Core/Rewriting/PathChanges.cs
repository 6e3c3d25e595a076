using System.Text.RegularExpressions;
using Jexa.Core.Definitions;

namespace Jexa.Core.Rewriting;

/// <summary>Named changes of a page's path and of its parameters.</summary>
public static partial class PathChanges
{
    /// <summary>Gives a page another path. Its former one is kept in <c>was</c>, so that old addresses redirect.</summary>
    /// <exception cref="RewriteException">There is no such page, or the text cannot be changed.</exception>
    public static void Move(FileRewriter file, string page, string path)
    {
        var former = PathOf(file, page);
        if (former == path)
            return;
        var was = Texts(file.Find("pages", page, "was")).ToList();
        file.Set(["pages", page, "path"], FileValue.Of(path));

        // A path that the page had before is its own again.
        var kept = was.Where(text => text != path).ToList();
        if (Parameters(former).SetEquals(Parameters(path)))
            kept.Add(former);
        if (kept.Count > 0)
            file.Set(["pages", page, "was"], kept is [var one] ? FileValue.Of(one) : FileValue.Of(kept));
        else if (was.Count > 0)
            file.Remove(["pages", page, "was"]);
    }

    /// <summary>
    /// Renames a parameter of a page, and everything in the file that names it: paths, conditions, titles, and links that pass
    /// it. What its name implied is written out first.
    /// </summary>
    /// <param name="field">The field that the parameter stands for. Null if it stands for none.</param>
    /// <exception cref="RewriteException">There is no such parameter, the new name is taken, or the text cannot be
    /// changed.</exception>
    public static void RenameParameter(FileRewriter file, string page, string old, string name, string? field)
    {
        var parameters = Parameters(PathOf(file, page));
        if (!parameters.Contains(old))
            throw new RewriteException($"The page “{page}” has no parameter “{old}”.");
        if (parameters.Contains(name))
            throw new RewriteException($"The page “{page}” has a parameter “{name}” already.");
        if (!Name().IsMatch(name))
            throw new RewriteException($"“{name}” is no name for a parameter: use letters, digits and _.");
        var isList = file.Find("pages", page, "list") is not null;
        var hasHole = Holes(file, page, old).Any();
        RenameInPaths(file, page, old, name);
        if (file.Find("pages", page, "by", old) is not null)
            file.Rename(["pages", page, "by", old], name);
        else if (field is not null && field != name && !isList)
            file.Set(["pages", page, "by", name], FileValue.Of(field));
        else if (field is not null && field != name && !hasHole)
            file.Set(["pages", page, "where", field], FileValue.Of($"{{{name}}}"));
        foreach (var (place, text) in Holes(file, page, old).ToList())
            file.Set(place, FileValue.Of(text.Replace($"{{{old}}}", $"{{{name}}}")));
        RenameInLinks(file, page, old, name);
    }

    private static string PathOf(FileRewriter file, string page) =>
        file.Find("pages", page) is null ? throw new RewriteException($"There is no page “{page}”.")
        : file.Find("pages", page, "path") is FileValue.Text text ? text.Value
        : throw new RewriteException($"The page “{page}” has no path.");

    /// <summary>The names of the parameters of a path.</summary>
    private static HashSet<string> Parameters(string path) =>
        [
            .. Expression()
                .Matches(path)
                .SelectMany(match => match.Groups[1].Value.TrimStart('?').Split(','))
                .Select(name => name.TrimEnd('*')),
        ];

    private static void RenameInPaths(FileRewriter file, string page, string old, string name)
    {
        string Renamed(string path) =>
            Expression().Replace(path, match => Word().Replace(match.Value, word => word.Value == old ? name : word.Value));
        file.Set(["pages", page, "path"], FileValue.Of(Renamed(PathOf(file, page))));
        switch (file.Find("pages", page, "was"))
        {
            case FileValue.Text text:
                file.Set(["pages", page, "was"], FileValue.Of(Renamed(text.Value)));
                break;
            case FileValue.List list:
                for (var i = 0; i < list.Items.Count; i++)
                    if (list.Items[i] is FileValue.Text item)
                        file.Set(["pages", page, "was", $"{i}"], FileValue.Of(Renamed(item.Value)));
                break;
        }

        var required = Texts(file.Find("pages", page, "required")).ToList();
        if (required.Contains(old))
            file.Set(["pages", page, "required"], FileValue.Of(required.Select(text => text == old ? name : text)));
    }

    /// <summary>
    /// The texts of a page in which a hole stands for the parameter: conditions, and titles of lists and texts.
    /// </summary>
    private static IEnumerable<(IReadOnlyList<string> Place, string Text)> Holes(FileRewriter file, string page, string name)
    {
        var isAboutRecord = PageKind.All.Any(kind => kind.HasId && file.Find("pages", page, kind.Word) is not null);
        string[] keys = isAboutRecord ? [] : ["where", "title", "text"];
        return keys.Where(key => file.Find("pages", page, key) is not null)
            .SelectMany(key => PageChanges.Texts(file.Find("pages", page, key)!, ["pages", page, key]))
            .Where(pair => pair.Text.Contains($"{{{name}}}", StringComparison.Ordinal));
    }

    /// <summary>Renames the parameter in links to the page.</summary>
    private static void RenameInLinks(FileRewriter file, string page, string old, string name)
    {
        foreach (var from in file.Keys("pages"))
        {
            var links = file.Find("pages", from, "links") as FileValue.List;
            for (var i = 0; i < (links?.Items.Count ?? 0); i++)
                if (file.Find("pages", from, "links", $"{i}", "to") == FileValue.Of(page))
                    RenameKey(["pages", from, "links", $"{i}", "with", old]);
            if (file.Find("pages", from, "then", "to") == FileValue.Of(page))
                RenameKey(["pages", from, "then", "with", old]);
        }

        void RenameKey(string[] place)
        {
            if (file.Find(place) is not null)
                file.Rename(place, name);
        }
    }

    private static IEnumerable<string> Texts(FileValue? value) =>
        value switch
        {
            FileValue.Text { IsNothing: false } text => [text.Value],
            FileValue.List list => list.Items.OfType<FileValue.Text>().Select(text => text.Value),
            _ => [],
        };

    [GeneratedRegex(@"\{([^{}]*)\}")]
    private static partial Regex Expression();

    [GeneratedRegex(@"\w+")]
    private static partial Regex Word();

    [GeneratedRegex(@"^[A-Za-z_]\w*$")]
    private static partial Regex Name();
}
