using System.Text.Json;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Management;

/// <summary>One named change of the app file.</summary>
/// <param name="Change">
/// <c>add-pages</c> (record, kinds), <c>new-page</c> (name, one of kinds, record), <c>rename-page</c> (page, name),
/// <c>move-page</c> (page, path), <c>rename-parameter</c> (page, parameter, name), <c>remove-page</c> (page), <c>set</c> (place,
/// value), <c>reset</c> (place), <c>add-item</c> (place of a list, value), <c>move-item</c> (place of an item, to) or
/// <c>rename-key</c> (place, name).
/// </param>
/// <param name="Record">The record kind that gets pages.</param>
/// <param name="Kinds">The kinds of pages: list, detail, edit, new, delete. All of them if null.</param>
/// <param name="Page">The page that is renamed, moved or removed, or that has the parameter.</param>
/// <param name="Name">The new name of the page or parameter.</param>
/// <param name="Path">The page's new path.</param>
/// <param name="Parameter">The parameter that is renamed.</param>
/// <param name="Place">A JSON Pointer (RFC 6901) into the app file.</param>
/// <param name="Value">A text, a list or an object of them.</param>
/// <param name="To">The number in its list that an item is moved to, from 0.</param>
public sealed record NamedChangeRequest(
    string Change,
    string? Record = null,
    IReadOnlyList<string>? Kinds = null,
    string? Page = null,
    string? Name = null,
    string? Path = null,
    string? Parameter = null,
    string? Place = null,
    JsonElement? Value = null,
    int? To = null
)
{
    /// <exception cref="RewriteException">There is no such change, or it lacks something.</exception>
    internal NamedChange Read() =>
        Change switch
        {
            "add-pages" => new NamedChange.AddPages(Must(Record, "record"), Kinds ?? NamedChange.AddPages.Words),
            "new-page" => new NamedChange.NewPage(
                Must(Name, "name"),
                Kinds is [var kind] ? kind : throw new RewriteException("The change “new-page” needs one kind in “kinds”."),
                Must(Record, "record")
            ),
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
            "add-item" => new NamedChange.AddItem(Places.Read(Must(Place, "place")), Of(Value)),
            "move-item" => new NamedChange.MoveItem(
                Places.Read(Must(Place, "place")),
                To ?? throw new RewriteException("The change “move-item” lacks “to”.")
            ),
            "rename-key" => new NamedChange.RenameKey(Places.Read(Must(Place, "place")), Must(Name, "name")),
            _ => throw new RewriteException(
                $"There is no change “{Change}”. There are add-pages, new-page, rename-page, move-page, rename-parameter, "
                    + "remove-page, set, reset, add-item, move-item and rename-key."
            ),
        };

    /// <summary>The request for a change that mends something.</summary>
    internal static NamedChangeRequest Of(NamedChange change) =>
        change switch
        {
            NamedChange.SetValue { Value: FileValue.Text text } set => new NamedChangeRequest(
                "set",
                Place: Places.Write(set.Place),
                Value: JsonSerializer.SerializeToElement(text.Value)
            ),
            NamedChange.RenameKey rename => new NamedChangeRequest(
                "rename-key",
                Place: Places.Write(rename.Place),
                Name: rename.Name
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(change)),
        };

    /// <summary>The change in a few words, as the name of a step.</summary>
    internal string Label =>
        Change switch
        {
            "add-pages" => $"add pages for {Record}",
            "new-page" => $"new page {Name}",
            "rename-page" => $"rename page {Page} to {Name}",
            "move-page" => $"move page {Page} to {Path}",
            "rename-parameter" => $"rename parameter {Parameter} of {Page} to {Name}",
            "remove-page" => $"remove page {Page}",
            _ => $"{Change.Replace("-item", "").Replace("-key", "")} {Place?.TrimStart('/').Replace('/', ' ')}",
        };

    private string Must(string? given, string what) =>
        given ?? throw new RewriteException($"The change “{Change}” lacks “{what}”.");

    private static FileValue Of(JsonElement? value) =>
        value switch
        {
            { ValueKind: JsonValueKind.String or JsonValueKind.Number or JsonValueKind.True or JsonValueKind.False } one =>
                FileValue.Of(one.ToString()),
            { ValueKind: JsonValueKind.Array } list => new FileValue.List([.. list.EnumerateArray().Select(item => Of(item))]),
            { ValueKind: JsonValueKind.Object } map => new FileValue.Map([
                .. map.EnumerateObject().Select(member => KeyValuePair.Create(member.Name, Of(member.Value))),
            ]),
            _ => throw new RewriteException("A value must be a text, a number, true or false, or a list or object of them."),
        };
}
