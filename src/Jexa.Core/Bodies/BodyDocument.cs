using AngleSharp.Dom;
using AngleSharp.Html.Parser.Tokens;
using AngleSharp.Text;
using Jexa.Core.Definitions;

namespace Jexa.Core.Bodies;

/// <summary>An HTML file that was read, and where its elements stand in it.</summary>
internal sealed class BodyDocument
{
    private readonly string _file;

    /// <summary>The files of the elements that came from other files.</summary>
    private readonly Dictionary<INode, string> _parts = [];

    public BodyDocument(string file, string name, IDocument document)
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

    /// <summary>Puts the content of another file in the place of an element.</summary>
    public void Include(IElement element, BodyDocument part)
    {
        foreach (var node in part.Main.ChildNodes.ToArray())
        {
            _parts[node] = part._file;
            foreach (var (inner, file) in part._parts)
                _parts[inner] = file;
            element.Before(Document.Adopt(node));
        }
    }
}
