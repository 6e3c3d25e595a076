using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html;
using AngleSharp.Html.Parser;
using AngleSharp.Html.Parser.Tokens;
using AngleSharp.Text;
using Jexa.Core.Definitions;
using Jexa.Core.Files;

namespace Jexa.Core.Bodies;

/// <summary>An HTML file, read once by a standard parser, within limits.</summary>
internal sealed class BodyDocument
{
    private const int MostBytes = 1024 * 1024;
    private const int MostDepth = 200;
    private const int MostElements = 20_000;
    private const int MostParts = 8;

    /// <summary>Elements whose end tag may be left out (HTML, optional tags): they nest less deep than they look.</summary>
    private static readonly HashSet<string> OpenEnded =
    [
        "p",
        "li",
        "dt",
        "dd",
        "tr",
        "td",
        "th",
        "thead",
        "tbody",
        "tfoot",
        "option",
        "optgroup",
        "colgroup",
        "html",
        "head",
        "body",
        "rt",
        "rp",
    ];

    private static readonly HashSet<string> Void =
    [
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "source",
        "track",
        "wbr",
    ];

    private readonly string _file;

    /// <summary>The files of the elements that came from other files.</summary>
    private readonly Dictionary<INode, string> _parts = [];

    private BodyDocument(string file, string name, IDocument document)
    {
        (_file, Name, Document) = (file, name, document);
        Own = document.QuerySelector("main");
    }

    /// <summary>The name of the file in the app file.</summary>
    public string Name { get; }

    public IDocument Document { get; }

    /// <summary>The element <c>main</c>; null if the whole body is the page.</summary>
    public IElement? Own { get; }

    /// <summary>The element whose content is the page.</summary>
    public IElement Main => Own ?? Document.Body!;

    /// <summary>Where an element begins in the file.</summary>
    public Place At(IElement element) =>
        element.SourceReference is { } token && token.Position.Line > 0
            ? new Place(FileOf(element), token.Position.Line, token.Position.Column)
        : element.ParentElement is { } parent ? At(parent)
        : new Place(_file, 1, 1);

    /// <summary>The file that an element stands in.</summary>
    private string FileOf(INode node)
    {
        for (var at = node; at is not null; at = at.Parent)
            if (_parts.TryGetValue(at, out var file))
                return file;
        return _file;
    }

    /// <summary>Where an attribute begins in the file.</summary>
    public Place At(IElement element, string attribute) =>
        element.SourceReference is HtmlTagToken tag
        && tag.Attributes.FirstOrDefault(one => one.Name.Is(attribute)) is { Position.Line: > 0 } found
            ? new Place(FileOf(element), found.Position.Line, found.Position.Column)
            : At(element);

    /// <summary>The text of an attribute, with its place.</summary>
    public Written Text(IElement element, string attribute, string value) =>
        new(value, At(element, attribute)) { IsOneRun = false };

    /// <summary>Reads a body. Null, and reported, if that is not possible.</summary>
    /// <param name="named">The name of the file in the app file, or in another body.</param>
    public static BodyDocument? Read(Written named, AppDefinition definition, FindingList findings) =>
        Read(named, definition, findings, 0);

    private static BodyDocument? Read(Written named, AppDefinition definition, FindingList findings, int depth)
    {
        if (TextOf(named, definition, findings) is not { } text)
            return null;
        var file = Path.Combine(Path.GetDirectoryName(definition.File) ?? "", named.Value);
        if (Excess(text) is { } excess)
        {
            Refuse(findings, named, $"The body {named} {excess}.", "Make it simpler: no page for people needs that.");
            return null;
        }

        var parser = new HtmlParser(new HtmlParserOptions { IsKeepingSourceReferences = true });
        var document = new BodyDocument(file, named.Value, parser.ParseDocument(text));
        foreach (var part in document.Main.QuerySelectorAll("[data-part$='.html']"))
            document.Include(part, definition, findings, depth);
        return document;
    }

    /// <summary>Puts the content of another file in the place of an element.</summary>
    private void Include(IElement element, AppDefinition definition, FindingList findings, int depth)
    {
        var name = Text(element, "data-part", element.GetAttribute("data-part")!);
        if (depth == MostParts)
            Refuse(findings, name, $"The part {name} stands in itself, or deeper than {MostParts} files.", "Take it out.");
        else if (Read(name, definition, findings, depth + 1) is { } part)
            foreach (var node in part.Main.ChildNodes.ToArray())
            {
                _parts[node] = part._file;
                foreach (var (inner, file) in part._parts)
                    _parts[inner] = file;
                element.Before(Document.Adopt(node));
            }

        element.Remove();
    }

    private static string? TextOf(Written named, AppDefinition definition, FindingList findings)
    {
        if (!named.Value.EndsWith(".html", StringComparison.Ordinal) || BodyPath.Of("", named.Value) is null)
        {
            Refuse(findings, named, $"“{named}” is no HTML file below the app file's folder.", "Name a file such as page.html.");
            return null;
        }

        if (definition.Texts.TryGetValue(named.Value, out var trial))
            return trial;
        try
        {
            var bytes = PlainFile.ReadAllBytes(Path.GetFullPath(named.Value, definition.Folder), MostBytes);
            if (bytes.Length > MostBytes)
                Refuse(findings, named, $"The body {named} has more than {MostBytes / 1024} kB.", "Make it smaller.");
            else if (Utf8Text(bytes) is { } text)
                return text;
            else
                Refuse(findings, named, $"The body {named} is not UTF-8.", "Save it as UTF-8.");
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            var isThere = Path.Exists(Path.GetFullPath(named.Value, definition.Folder));
            Refuse(
                findings,
                named,
                isThere ? $"The body {named} cannot be read." : $"There is no file “{named}” beside the app file.",
                isThere ? "Let the account that Jexa runs under read it." : $"Write it; `jexa body` makes a start."
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
            if (token is not HtmlTagToken tag || OpenEnded.Contains(tag.Name.ToString()) || Void.Contains(tag.Name.ToString()))
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

    private static void Refuse(FindingList findings, Written named, string message, string remedy) =>
        findings.Add(
            FindingCodes.BodyUnreadable,
            named.At,
            message,
            remedy,
            found: named.Value,
            expected: "an HTML file in UTF-8, of 1 MiB at most"
        );
}
