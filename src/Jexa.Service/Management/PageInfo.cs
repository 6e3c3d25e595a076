namespace Jexa.Service.Management;

/// <summary>A page of the app.</summary>
/// <param name="Kind"><c>list</c>, <c>detail</c>, <c>edit</c>, <c>new</c>, <c>delete</c> or <c>text</c>.</param>
/// <param name="Record">The record kind that it shows; empty for a text page.</param>
/// <param name="Line">The line where it begins in the app file.</param>
/// <param name="Address">The address of a page without required parameters; null for other pages.</param>
/// <param name="InMenu">Whether it is in the menu of every page.</param>
/// <param name="Links">The links on it.</param>
/// <param name="LinkedFrom">The links of all pages that lead to it.</param>
public sealed record PageInfo(
    string Name,
    string Path,
    string Kind,
    string Record,
    string Source,
    int Line,
    IReadOnlyList<ParameterInfo> Parameters,
    string? Address,
    bool InMenu,
    IReadOnlyList<PageLinkInfo> Links,
    IReadOnlyList<PageLinkInfo> LinkedFrom
);
