using AngleSharp.Dom;
using AngleSharp.Html.Dom;

namespace Jexa.Core.Audit;

/// <summary>Reads somebody's page on which a record is edited.</summary>
public static class FormReading
{
    private static readonly string[] Words = ["edit", "change", "bearbeiten", "ändern", "modifier", "editar", "modifica"];

    /// <summary>The address where the record of a page is edited; null if the page leads to none.</summary>
    public static Uri? EditOf(IDocument page, Uri address) =>
        page.QuerySelectorAll("main a[href], body a[href]")
            .Where(link => !ListReading.LooksDangerous(link.TextContent))
            .Where(link => IsEdit(link))
            .Select(link => ListReading.TargetOf(link.GetAttribute("href")!, address))
            .FirstOrDefault(target =>
                target is not null && target != address && !ListReading.LooksDangerous(target.PathAndQuery)
            );

    /// <summary>What the fields of the page's largest form hold; null if it has no form with fields for text.</summary>
    public static IReadOnlyList<string>? ValuesOf(IDocument page) =>
        page.QuerySelectorAll("form")
            .Select(form => form.QuerySelectorAll("input, textarea, select").Where(IsForText).Select(ValueOf).ToList())
            .Where(values => values.Count > 0)
            .MaxBy(values => values.Count);

    private static bool IsEdit(IElement link)
    {
        var words = FactReading.Plain(link.TextContent).Split(' ');
        return words.Length <= 4 && words.Any(word => Words.Contains(word))
            || (link.GetAttribute("href") ?? "").TrimEnd('/').EndsWith("/edit", StringComparison.OrdinalIgnoreCase);
    }

    private static bool IsForText(IElement field) =>
        field.LocalName != "input"
        || (field.GetAttribute("type") ?? "text")
            is not ("hidden" or "password" or "submit" or "button" or "checkbox" or "radio" or "file" or "search");

    private static string ValueOf(IElement field) =>
        field switch
        {
            IHtmlSelectElement select => select.Options.FirstOrDefault(option => option.IsSelected)?.Text ?? "",
            IHtmlTextAreaElement area => area.Value,
            _ => field.GetAttribute("value") ?? "",
        };
}
