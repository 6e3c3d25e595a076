using System.Text.Json;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Management;

/// <summary>One named change of the app file.</summary>
/// <param name="Change">
/// <c>add-pages</c> (record, kinds), <c>rename-page</c> (page, name), <c>move-page</c> (page, path), <c>rename-parameter</c>
/// (page, parameter, name), <c>remove-page</c> (page), <c>set</c> (place, value) or <c>reset</c> (place).
/// </param>
/// <param name="Record">The record kind that gets pages.</param>
/// <param name="Kinds">The kinds of pages: list, detail, edit, new, delete. All of them if null.</param>
/// <param name="Page">The page that is renamed, moved or removed, or that has the parameter.</param>
/// <param name="Name">The new name of the page or parameter.</param>
/// <param name="Path">The page's new path.</param>
/// <param name="Parameter">The parameter that is renamed.</param>
/// <param name="Place">A JSON Pointer (RFC 6901) into the app file.</param>
/// <param name="Value">A text, or a list of texts.</param>
public sealed record NamedChangeRequest(
    string Change,
    string? Record = null,
    IReadOnlyList<string>? Kinds = null,
    string? Page = null,
    string? Name = null,
    string? Path = null,
    string? Parameter = null,
    string? Place = null,
    JsonElement? Value = null
)
{
    /// <exception cref="RewriteException">There is no such change, or it lacks something.</exception>
    internal NamedChange Read() =>
        Change switch
        {
            "add-pages" => new NamedChange.AddPages(Must(Record, "record"), Kinds ?? NamedChange.AddPages.Words),
            "rename-page" => new NamedChange.RenamePage(Must(Page, "page"), Must(Name, "name")),
            "move-page" => new NamedChange.MovePage(Must(Page, "page"), Must(Path, "path")),
            "rename-parameter" => new NamedChange.RenameParameter(
                Must(Page, "page"),
                Must(Parameter, "parameter"),
                Must(Name, "name")
            ),
            "remove-page" => new NamedChange.RemovePage(Must(Page, "page")),
            "set" => new NamedChange.SetValue(Places.Read(Must(Place, "place")), Of(Value)),
            "reset" => new NamedChange.Reset(Places.Read(Must(Place, "place"))),
            _ => throw new RewriteException(
                $"There is no change “{Change}”. There are add-pages, rename-page, move-page, rename-parameter, "
                    + "remove-page, set and reset."
            ),
        };

    private string Must(string? given, string what) =>
        given ?? throw new RewriteException($"The change “{Change}” lacks “{what}”.");

    private static FileValue Of(JsonElement? value) =>
        value switch
        {
            { ValueKind: JsonValueKind.String or JsonValueKind.Number or JsonValueKind.True or JsonValueKind.False } one =>
                FileValue.Of(one.ToString()),
            { ValueKind: JsonValueKind.Array } list => new FileValue.List([.. list.EnumerateArray().Select(item => Of(item))]),
            _ => throw new RewriteException("A value must be a text, a number, true or false, or a list of them."),
        };
}
