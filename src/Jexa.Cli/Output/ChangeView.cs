using System.Globalization;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>Shows changes in a terminal.</summary>
internal static class ChangeView
{
    private const int MostFields = 4;
    private const int LongestValue = 40;

    public static void Write(IAnsiConsole console, ChangeList list)
    {
        if (list.Changes.Count == 0)
        {
            console.WriteLine("No changes.");
            return;
        }

        var table = Terminal.Table("change", "when (UTC)", "page", "record", "what");
        table.Columns[0].RightAligned();
        foreach (var change in list.Changes)
            table.AddRow(
                change.Number.ToString(CultureInfo.InvariantCulture),
                Terminal.Escaped(When(change)),
                Terminal.Escaped(change.Page),
                Terminal.Escaped(Record(change)),
                Terminal.Escaped(What(change))
            );
        console.Write(table);
        if (list.More)
            console.WriteLine("There are earlier ones: ask for more with --limit.");
    }

    public static void Write(IAnsiConsole console, ChangeInfo change)
    {
        console.MarkupLine(
            $"[bold]Change {change.Number}[/]: {Terminal.Escaped(Record(change))} "
                + $"{change.Kind}{(change.State == "made" ? "" : $", {change.State}")}"
        );
        console.WriteLine($"  when   {When(change)} UTC");
        console.WriteLine($"  page   {Terminal.Shown(change.Page)}");
        console.WriteLine($"  key    {Terminal.Shown(change.Key)}");
        if (change.By is { } by)
            console.WriteLine($"  by     {Terminal.Shown(by)}");
        if (change.Undoes is { } undoes)
            console.WriteLine($"  takes back change {undoes}");
        if (change.UndoneBy is { } undone)
            console.WriteLine($"  was taken back by change {undone}");
        var table = Terminal.Table("  field", "before", "after");
        foreach (var field in change.Fields)
            table.AddRow(
                Terminal.Escaped("  " + field.Field),
                Terminal.Escaped(field.Secret ? "(secret)" : field.Before ?? "(nothing)"),
                Terminal.Escaped(field.Secret ? "(secret)" : field.After ?? "(nothing)")
            );
        console.Write(table);
    }

    private static string When(ChangeInfo change) =>
        change.At.UtcDateTime.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture);

    private static string Record(ChangeInfo change) => $"{change.Record} {(change.Id.Length > 0 ? change.Id : change.Key)}";

    private static string What(ChangeInfo change)
    {
        var end =
            (change.State == "made" ? "" : $" ({change.State})")
            + (change.Undoes is { } undoes ? $" (takes back {undoes})" : "")
            + (change.UndoneBy is { } undone ? $" (taken back by {undone})" : "");
        if (change.Kind != "changed")
            return change.Kind + end;
        var fields = change
            .Fields.Take(MostFields)
            .Select(field =>
                field.Secret ? $"{field.Field} (secret)" : $"{field.Field}: {Cut(field.Before)} → {Cut(field.After)}"
            );
        return string.Join("; ", fields)
            + (change.Fields.Count > MostFields ? $"; and {change.Fields.Count - MostFields} more" : "")
            + end;
    }

    private static string Cut(string? text) =>
        text is null ? "(nothing)"
        : text.Length <= LongestValue ? text
        : text[..LongestValue] + "…";
}
