using System.Text;
using AngleSharp.Html;
using AngleSharp.Html.Parser;
using AngleSharp.Html.Parser.Tokens;
using AngleSharp.Text;
using Jexa.Core.Definitions;
using Jexa.Core.Files;

namespace Jexa.Core.Bodies;

/// <summary>Reads the HTML files of an app, each by a standard parser and within limits.</summary>
internal sealed class BodyReader(AppDefinition definition, FindingList findings)
{
    private const int MostBytes = 1024 * 1024;
    private const int MostDepth = 200;
    private const int MostElements = 20_000;
    private const int MostPartsDeep = 8;

    /// <summary>A part that stands in a part that stands in a part multiplies: all of one file's parts count.</summary>
    private const int MostParts = 200;

    private readonly SortedSet<string> _files = new(StringComparer.Ordinal);

    /// <summary>The full paths of all files that were looked for, whether they were there or not.</summary>
    public IReadOnlyCollection<string> Files => _files;

    /// <summary>Reads a file, with the parts that stand in it. Null, and reported, if that is not possible.</summary>
    /// <param name="named">The name of the file in the app file.</param>
    public BodyDocument? Read(Written named)
    {
        var left = MostParts;
        return Read(named, 0, ref left);
    }

    private BodyDocument? Read(Written named, int depth, ref int left)
    {
        if (TextOf(named) is not { } text)
            return null;
        if (Excess(text) is { } excess)
        {
            Refuse(named, $"The body {named} {excess}.", "Make it simpler: no page for people needs that.");
            return null;
        }

        var file = Path.Combine(Path.GetDirectoryName(definition.File) ?? "", named.Value);
        var parser = new HtmlParser(new HtmlParserOptions { IsKeepingSourceReferences = true });
        var document = new BodyDocument(file, named.Value, parser.ParseDocument(text));
        foreach (var element in document.Main.QuerySelectorAll("[data-part$='.html']"))
        {
            var name = document.Text(element, "data-part", element.GetAttribute("data-part")!);
            if (depth == MostPartsDeep || --left < 0)
                Refuse(
                    name,
                    $"The part {name} stands in itself, deeper than {MostPartsDeep} files, or with more than {MostParts} others.",
                    "Take it out."
                );
            else if (Read(name, depth + 1, ref left) is { } part)
                document.Include(element, part);
            element.Remove();
        }

        return document;
    }

    private string? TextOf(Written named)
    {
        if (!named.Value.EndsWith(".html", StringComparison.Ordinal) || BodyPath.Of("", named.Value) is null)
        {
            Refuse(named, $"“{named}” is no HTML file below the app file's folder.", "Name a file such as page.html.");
            return null;
        }

        var path = Path.GetFullPath(named.Value, definition.Folder);
        _files.Add(path);
        if (definition.Texts.TryGetValue(named.Value, out var trial))
            return trial;
        try
        {
            var bytes = PlainFile.ReadAllBytes(path, MostBytes);
            if (bytes.Length > MostBytes)
                Refuse(named, $"The body {named} has more than {MostBytes / 1024} kB.", "Make it smaller.");
            else if (Utf8Text(bytes) is { } text)
                return text;
            else
                Refuse(named, $"The body {named} is not UTF-8.", "Save it as UTF-8.");
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            var isThere = Path.Exists(path);
            Refuse(
                named,
                isThere ? $"The body {named} cannot be read." : $"There is no file “{named}” beside the app file.",
                isThere ? "Let the account that Jexa runs under read it." : "Write it; `jexa body` makes a start."
            );
        }

        return null;
    }

    private static string? Utf8Text(byte[] bytes)
    {
        try
        {
            var text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
            return text.Contains('\0') ? null : text.TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    /// <summary>
    /// Why a text is too much for a parser: deep nesting takes it a time that grows with its square. Null if not.
    /// </summary>
    private static string? Excess(string text)
    {
        using var source = new TextSource(text);
        using var tokens = new HtmlTokenizer(source, HtmlEntityProvider.Resolver);
        var (depth, elements) = (0, 0);
        while (tokens.Get() is { Type: not HtmlTokenType.EndOfFile } token)
        {
            if (token is not HtmlTagToken tag || IsFlat(tag.Name.ToString()))
                continue;
            if (tag.Type == HtmlTokenType.EndTag)
                depth = Math.Max(0, depth - 1);
            else if (!tag.IsSelfClosing && ++depth > MostDepth)
                return $"has elements nested deeper than {MostDepth}";
            if (++elements > MostElements)
                return $"has more than {MostElements:N0} elements";
        }

        return null;
    }

    /// <summary>Whether an element does not nest what follows its tag.</summary>
    private static bool IsFlat(string name) => BodyElements.OpenEnded.Contains(name) || BodyElements.Void.Contains(name);

    private void Refuse(Written named, string message, string remedy) =>
        findings.Add(
            FindingCodes.BodyUnreadable,
            named.At,
            message,
            remedy,
            found: named.Value,
            expected: "an HTML file in UTF-8, of 1 MiB at most"
        );
}
