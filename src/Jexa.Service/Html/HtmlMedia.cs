using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Service.Media;

namespace Jexa.Service.Html;

/// <summary>
/// Writes what a field names: a picture, a recording, a file to download; or the player of another host that shows its value.
/// </summary>
/// <param name="values">Writes what is said of it.</param>
/// <param name="isList">Whether many of them stand on the page.</param>
internal readonly struct HtmlMedia(HtmlValues values, Utf8Buffer html, Utf8Buffer scratch, bool isList)
{
    /// <summary>The widths that a page does not say are those of the window.</summary>
    public const string WholeWidth = "100vw";

    /// <param name="title">The label of its record, which is said of it; null for none.</param>
    /// <param name="quiet">Whether nothing is said of a picture: another link of the row leads there.</param>
    /// <param name="linked">Whether it stands in a link.</param>
    public void Write(ViewColumn column, Row row, TextPlan? title, bool linked, bool quiet)
    {
        if (column.Style.Form == FieldForm.Embed)
        {
            WritePlayer(column, row, title, linked);
            return;
        }

        scratch.Truncate(0);
        if (column.File is not { } plan || !FolderFiles.TryFind(plan, row, scratch, out var file))
            WriteMissing(column, row);
        else if (column.Style.Form == FieldForm.Picture)
            WritePicture(column, row, title, file, quiet);
        else if (linked || (isList && column.Style.Form == FieldForm.Video))
            WriteKind(plan.NameOf(row), file);
        else if (column.Style.Form.IsRecording())
            WriteRecording(column.Style.Form == FieldForm.Video ? "video"u8 : "audio"u8, column, row, title);
        else
            WriteDownload(plan.NameOf(row), file);
    }

    private void WriteMissing(ViewColumn column, Row row)
    {
        html.Append("<span class=\"no-picture\">"u8);
        html.AppendEncoded(column.File?.NameOf(row) is { Length: > 0 } name ? name : row.Text(column.Ordinal));
        html.Append(" <span class=\"none\">"u8);
        html.Append(
            column.File?.LacksPlace(row) == true ? "cannot be shown: the app does not say where its files are"u8 : "is missing"u8
        );
        html.Append("</span></span>"u8);
    }

    private void WritePicture(ViewColumn column, Row row, TextPlan? title, string? file, bool quiet)
    {
        html.Append("<img class=\"picture\" loading=\"lazy\""u8);
        WriteSize(file, isSized: false);
        WriteSource(file, isList ? ListWidth : DetailWidth);
        html.Append(" alt=\""u8);
        if (!quiet)
            values.WriteWords(column, row, title);
        html.Append("\">"u8);
    }

    /// <summary>How wide the style sheet shows pictures.</summary>
    private const string ListWidth = "(max-width: 58rem) 100vw, 20rem";

    private const string DetailWidth = "(max-width: 34rem) 100vw, 30rem";

    /// <summary>Width and height, so that the room is there before the picture is.</summary>
    /// <param name="isSized">Whether the page says them itself.</param>
    public void WriteSize(string? file, bool isSized)
    {
        if (!isSized && file is not null && PictureSize.Of(file) is { } facts)
            html.Append($" width=\"{facts.Width}\" height=\"{facts.Height}\"");
    }

    /// <summary>The address, and those of smaller pictures. The scratch buffer holds the address.</summary>
    /// <param name="sizes">How wide the page shows it.</param>
    public void WriteSource(string? file, string sizes)
    {
        html.Append(" src=\""u8);
        html.AppendEncoded(scratch.Written);
        html.Append("\""u8);
        if (file is null || PictureSize.Of(file) is not { CanShrink: true } facts || facts.Width <= SmallPictures.Widths[0])
            return;
        html.Append(" srcset=\""u8);
        foreach (var width in SmallPictures.Widths)
        {
            if (width >= facts.Width)
                break;
            html.AppendEncoded(scratch.Written);
            html.Append($"{SmallPictures.Asking(width)} {width}w, ");
        }

        html.AppendEncoded(scratch.Written);
        html.Append($" {facts.Width}w\" sizes=\"");
        html.AppendEncoded(sizes);
        html.Append("\""u8);
    }

    /// <summary>A player of the browser, with a link for browsers that have none.</summary>
    private void WriteRecording(ReadOnlySpan<byte> element, ViewColumn column, Row row, TextPlan? title)
    {
        var address = scratch.Written.ToArray();
        html.Append("<"u8);
        html.Append(element);
        html.Append(" class=\"recording\" controls preload=\""u8);
        html.Append(isList ? "none"u8 : "metadata"u8);
        html.Append("\" src=\""u8);
        html.AppendEncoded(address);
        html.Append("\" aria-label=\""u8);
        values.WriteWords(column, row, title);
        html.Append("\"><a href=\""u8);
        html.AppendEncoded(address);
        html.Append("\">"u8);
        values.WriteWords(column, row, title);
        html.Append("</a></"u8);
        html.Append(element);
        html.Append(">"u8);
    }

    private void WriteDownload(string name, string? file)
    {
        html.Append("<a download href=\""u8);
        html.AppendEncoded(scratch.Written);
        html.Append("\">"u8);
        html.AppendEncoded(FolderFiles.ShownName(name));
        html.Append("</a>"u8);
        if (Described(file) is not { } described)
            return;
        html.Append(" <span class=\"kind\">"u8);
        html.AppendEncoded(described);
        html.Append("</span>"u8);
    }

    /// <summary>What it is, where it is neither played nor downloaded.</summary>
    private void WriteKind(string name, string? file) => html.AppendEncoded(Described(file) ?? FolderFiles.ShownName(name));

    private static string? Described(string? file) =>
        file is not null && FileFacts.Of(file) is { } facts
            ? facts.Kind.Name.Length > 0
                ? $"{facts.Kind.Name}, {FileFacts.Size(facts.Length)}"
                : FileFacts.Size(facts.Length)
            : null;

    /// <summary>
    /// A frame with another host's page. It may run scripts of its own origin, and neither lead this page away nor see it.
    /// </summary>
    private void WritePlayer(ViewColumn column, Row row, TextPlan? title, bool linked)
    {
        if (linked || isList || column.Style.Player?.For(row.Text(column.Ordinal)) is not { } address)
        {
            html.AppendEncoded(row.Run(column.Ordinal));
            return;
        }

        html.Append("<iframe class=\"player\" loading=\"lazy\" allowfullscreen allow=\"fullscreen; picture-in-picture\" "u8);
        html.Append("sandbox=\"allow-scripts allow-same-origin\" referrerpolicy=\"strict-origin-when-cross-origin\" src=\""u8);
        html.AppendEncoded(address);
        html.Append("\" title=\""u8);
        values.WriteWords(column, row, title);
        html.Append("\"></iframe>"u8);
    }
}
