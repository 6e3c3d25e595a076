namespace Jexa.Service.Management;

/// <summary>A page of the preview.</summary>
/// <param name="Place">Where it stands in the app file: a JSON Pointer. That of the page whose <c>forms</c> it belongs to, if it
/// has no entry of its own.</param>
/// <param name="Columns">The fields that it shows, in order, by their names and labels.</param>
/// <param name="Actions">The links in a list's column of its own, or above a record's fields: pages and texts.</param>
/// <param name="Blocks">The number of blocks below a record.</param>
public sealed record WorkingPageInfo(
    PageInfo Page,
    string Place,
    IReadOnlyList<ChoiceInfo> Columns,
    IReadOnlyList<ChoiceInfo> Actions,
    int Blocks
);
