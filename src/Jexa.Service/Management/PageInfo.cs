namespace Jexa.Service.Management;

/// <summary>A page of the app.</summary>
/// <param name="Kind"><c>list</c>, <c>detail</c>, <c>edit</c>, <c>new</c>, <c>delete</c> or <c>text</c>.</param>
/// <param name="Record">The record kind it shows; empty for a text.</param>
/// <param name="Line">Where it begins in the app file that is served.</param>
/// <param name="Address">The address of a page without parameters; null for one that needs some.</param>
/// <param name="InMenu">Whether every page leads to it.</param>
/// <param name="Links">The links that stand on it.</param>
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
