namespace Jexa.Core.Definitions;

/// <summary>
/// What a page shows or does. This is the one table of page kinds: what a kind is called, which keys it has, what its parameters
/// are for, what programs may do with it. The page itself is compiled where <c>SiteBuild</c> says and visited where
/// <c>VisitRunner</c> says.
/// </summary>
/// <remarks>In the texts, <c>{one}</c> and <c>{many}</c> stand for the record kind: bridge, bridges.</remarks>
public sealed class PageKind
{
    /// <summary>A list of records.</summary>
    public static PageKind List { get; } =
        new()
        {
            Word = "list",
            Calls = PageCalls.List,
            Parameters = ParameterRole.Filters,
            Keys = ["order", "ids", "required", "search", "size", "look", "side", "show", "where", "links", "add", "body"],
            Summary = "Lists {many}",
            Purpose = "It is to list {many}.",
            UsualNames = ["{many}"],
        };

    /// <summary>One record.</summary>
    public static PageKind Detail { get; } =
        new()
        {
            Word = "detail",
            Calls = PageCalls.Read,
            Parameters = ParameterRole.Id,
            Keys = ["by", "ids", "related", "beside", "neighbours", "play_on", "show", "where", "links", "forms", "body"],
            Summary = "One {one}",
            Purpose = "It is to show one {one}.",
            UsualNames = ["{one}"],
            LinkText = "{one}",
        };

    /// <summary>A form that changes one record.</summary>
    public static PageKind Edit { get; } =
        new()
        {
            Word = "edit",
            Calls = PageCalls.Edit,
            Parameters = ParameterRole.Id,
            Keys = ["by", "ids", "where", "links", "form", "then", "body"],
            Summary = "Changes one {one}",
            Purpose = "It is to change one {one}.",
            UsualNames = ["{one} edit", "edit {one}"],
            LinkText = "Edit",
        };

    /// <summary>A form that adds a record.</summary>
    public static PageKind New { get; } =
        new()
        {
            Word = "new",
            Calls = PageCalls.Add,
            Parameters = ParameterRole.FirstValues,
            Keys = ["by", "required", "form", "then", "body"],
            Summary = "Adds one {one}",
            Purpose = "It is to add one {one}.",
            UsualNames = ["{one} new", "new {one}"],
            LinkText = "New {one}",
        };

    /// <summary>A question whether to delete one record.</summary>
    public static PageKind Delete { get; } =
        new()
        {
            Word = "delete",
            Calls = PageCalls.Delete,
            Parameters = ParameterRole.Id,
            Keys = ["by", "ids", "show", "where", "links", "then", "body"],
            Summary = "Deletes one {one}",
            Purpose = "It is to delete one {one}.",
            UsualNames = ["{one} delete", "delete {one}"],
            LinkText = "Delete",
        };

    /// <summary>A text, without a record.</summary>
    public static PageKind Text { get; } =
        new()
        {
            Word = "text",
            Calls = PageCalls.Text,
            Parameters = ParameterRole.Holes,
            Keys = ["lists", "finds"],
            Summary = "A text",
            Purpose = "",
            UsualNames = [],
        };

    /// <summary>All kinds of pages.</summary>
    public static IReadOnlyList<PageKind> All { get; } = [List, Detail, Edit, New, Delete, Text];

    private PageKind() { }

    /// <summary>The key of the app file that makes a page of this kind, and names its record.</summary>
    public required string Word { get; init; }

    /// <summary>What programs get from its pages and may send to them.</summary>
    public required PageCalls Calls { get; init; }

    /// <summary>What the parameters of its pages are for.</summary>
    public required ParameterRole Parameters { get; init; }

    /// <summary>The keys that its pages have in the app file, besides those of all pages.</summary>
    public required IReadOnlyList<string> Keys { get; init; }

    /// <summary>What its pages do, in a few words.</summary>
    public required string Summary { get; init; }

    /// <summary>What a page that is not written yet is to do, as a sentence. Empty if no name tells.</summary>
    public required string Purpose { get; init; }

    /// <summary>The names that tell that a page not written yet is of this kind.</summary>
    public required IReadOnlyList<string> UsualNames { get; init; }

    /// <summary>The text of a link to its pages. Null if it is the page's own heading.</summary>
    public string? LinkText { get; init; }

    /// <summary>Whether its pages have a record kind.</summary>
    public bool HasRecord => Calls != PageCalls.Text;

    /// <summary>Whether its pages are about one record that their address names.</summary>
    public bool HasId => Parameters == ParameterRole.Id;

    /// <summary>Whether its pages change records.</summary>
    public bool Writes => Calls is PageCalls.Edit or PageCalls.Add or PageCalls.Delete;

    /// <summary>The kind of this word. Null if there is none.</summary>
    public static PageKind? Of(string word) => All.FirstOrDefault(kind => kind.Word == word);

    /// <summary>A text of this table about a record kind.</summary>
    public static string Say(string text, string one, string many) => text.Replace("{one}", one).Replace("{many}", many);

    /// <inheritdoc/>
    public override string ToString() => Word;
}
