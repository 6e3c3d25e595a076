using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using Jexa.Core.Addresses;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Files;

namespace Jexa.Core.Compiler;

/// <summary>
/// The files that a body uses: those beside it, and those made of the styles and scripts that stand in it. So pages need no
/// policy but that everything comes from the app.
/// </summary>
internal sealed partial class BodyFiles(BodyContext context)
{
    private const int MostStyle = 1024 * 1024;

    private readonly StringBuilder _styles = new();
    private readonly StringBuilder _scripts = new();
    private readonly HashSet<string> _used = [];
    private int _rules;

    /// <summary>The files beside the app file that may be served.</summary>
    public IReadOnlyCollection<string> Used => _used;

    /// <summary>The files that were made, by name.</summary>
    public IReadOnlyDictionary<string, byte[]> Made =>
        new[] { (Name: $"{context.Name}.css", Text: _styles), (Name: $"{context.Name}.js", Text: _scripts) }
            .Where(file => file.Text.Length > 0)
            .ToDictionary(file => file.Name, file => Encoding.UTF8.GetBytes(file.Text.ToString()));

    /// <summary>The address of a file that an element names; null, and reported, if there is none.</summary>
    public string? Use(IElement element, string attribute, string address)
    {
        var path = BodyPath.Of(BodyPath.FolderOf(context.Document.Name), address);
        if (path is not null && BodyPath.IsServed(path) && IsThere(path))
        {
            Take(path);
            var rest = address[address.Split('?', '#')[0].Length..];
            return $"{context.Mount}/{RequestTarget.ReservedSegment}/app/files/"
                + string.Join('/', path.Split('/').Select(Uri.EscapeDataString))
                + rest;
        }

        context.Findings.Add(
            FindingCodes.BodyUnreadable,
            context.Document.At(element, attribute),
            path is null ? $"“{address}” is not below the app file's folder."
                : BodyPath.IsServed(path) ? $"There is no file “{address}” beside the body."
                : $"“{address}” is of a kind that pages do not use.",
            element.LocalName == "a"
                ? "Link to a page by its name: href=\"page:NAME\". For a place on this page, write href=\"#ID\"."
                : "Put the file there, or remove the element.",
            found: address,
            expected: "a style sheet, script, picture or font below the app file's folder"
        );
        return null;
    }

    /// <summary>Takes a style or script out of the body. It stands in a file of its own then.</summary>
    public void Lift(IElement element)
    {
        if (element.LocalName == "style")
            _styles.Append(element.TextContent).Append('\n');
        else if (element.GetAttribute("src") is null && IsScript(element))
            _scripts.Append(element.TextContent).Append("\n;\n");
    }

    /// <summary>Takes the style of one element out of the body. Returns the number by which the style sheet finds it.</summary>
    public int LiftRule(IElement element, string style)
    {
        if (style.AsSpan().IndexOfAny("{}<") >= 0)
            context.Misplace(element, "A style with { or < cannot be taken over.", "Write it into a style sheet.");
        else
            _styles.Append($"[data-style=\"{++_rules}\"]:not(#_):not(#_):not(#_):not(#_){{{style}}}\n");
        return _rules;
    }

    /// <summary>The style sheets and scripts of the file, in order, as they stand in the head of the page.</summary>
    public byte[] Head(BodyDocument document)
    {
        var head = new StringBuilder();
        foreach (var element in document.Document.Head!.Children)
        {
            if (element.LocalName == "style" || (element.LocalName == "script" && element.GetAttribute("src") is null))
                Lift(element);
            else if (element.LocalName == "link" && IsStyle(element) && Found(element, "href") is { } sheet)
                head.Append($"<link rel=\"stylesheet\" href=\"{BodyMarkup.Encoded(sheet)}\"{Media(element)}>\n");
            else if (element.LocalName == "script" && Found(element, "src") is { } script)
                head.Append($"<script src=\"{BodyMarkup.Encoded(script)}\"{Kind(element)}></script>\n");
        }

        foreach (var element in document.Main.QuerySelectorAll("script[src]"))
            if (Found(element, "src") is { } script)
                head.Append($"<script src=\"{BodyMarkup.Encoded(script)}\"{Kind(element)}></script>\n");
        foreach (var (name, bytes) in Made)
        {
            var version = Convert.ToHexStringLower(SHA256.HashData(bytes))[..12];
            var address = $"{context.Mount}/{RequestTarget.ReservedSegment}/app/body/{Uri.EscapeDataString(name)}?v={version}";
            head.Append(
                name.EndsWith(".css", StringComparison.Ordinal)
                    ? $"<link rel=\"stylesheet\" href=\"{BodyMarkup.Encoded(address)}\">\n"
                    : $"<script src=\"{BodyMarkup.Encoded(address)}\" defer></script>\n"
            );
        }

        return Encoding.UTF8.GetBytes(head.ToString());
    }

    private string? Found(IElement element, string attribute)
    {
        var address = element.GetAttribute(attribute)?.Trim() ?? "";
        if (BodyPath.IsRelative(address))
            return Use(element, attribute, address);
        if (address.StartsWith('/') && !address.StartsWith("//", StringComparison.Ordinal))
            return address;
        context.Warn(
            context.Document.At(element, attribute),
            $"{address} is left out: a page loads nothing from elsewhere.",
            "Put a copy of the file beside the body."
        );
        return null;
    }

    private static bool IsStyle(IElement element) =>
        element.GetAttribute("rel")?.Split(' ').Contains("stylesheet", StringComparer.OrdinalIgnoreCase) == true;

    private static bool IsScript(IElement element) => element.GetAttribute("type") is null or "" or "module" or "text/javascript";

    private static string Media(IElement element) =>
        element.GetAttribute("media") is { } media ? $" media=\"{BodyMarkup.Encoded(media)}\"" : "";

    private static string Kind(IElement element) => element.GetAttribute("type") == "module" ? " type=\"module\"" : " defer";

    private bool IsThere(string path) => File.Exists(Path.GetFullPath(path, context.App.Folder));

    private void Take(string path)
    {
        if (!_used.Add(path) || !path.EndsWith(".css", StringComparison.Ordinal))
            return;
        try
        {
            var bytes = PlainFile.ReadAllBytes(Path.GetFullPath(path, context.App.Folder), MostStyle);
            foreach (
                var named in Named().Matches(Encoding.UTF8.GetString(bytes)).Select(match => match.Groups["file"].Value.Trim())
            )
                if (
                    BodyPath.IsRelative(named)
                    && BodyPath.Of(BodyPath.FolderOf(path), named) is { } other
                    && BodyPath.IsServed(other)
                    && IsThere(other)
                )
                    Take(other);
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            // The browser is told the same when it asks.
        }
    }

    [GeneratedRegex("""(?:url\(\s*["']?|@import\s+["'])(?<file>[^"')]+)""")]
    private static partial Regex Named();
}
