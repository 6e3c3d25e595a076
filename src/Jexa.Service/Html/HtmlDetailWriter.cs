using Jexa.Core.Addresses;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes one record: the trail above it, its neighbours, its fields, and its blocks.</summary>
internal sealed class HtmlDetailWriter(HtmlParts allParts, HtmlRowWriter rows)
{
    public void Write(DetailView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        HtmlFrame.WriteTrail(view.Trail, view.Back, html);
        html.Append("<div class=\"lead\">\n<h1>"u8);
        scratch.Truncate(0);
        view.Shape.Title.Write(view.Record, scratch);
        html.AppendEncoded(scratch.Written);
        html.Append("</h1>\n"u8);
        WriteNeighbours(view, html);
        html.Append("</div>\n"u8);
        WriteLinks(view, new HtmlValues(view, html, scratch, ""), html);
        WriteFields(view, view.Shape, view.Record, html, scratch);
        for (var i = 0; i < view.Blocks.Count; i++)
            WriteBlock(view, view.Blocks[i], i, html, scratch);
        WritePlayingOn(view, html);
    }

    /// <summary>The script by which the end of a recording leads to the next record.</summary>
    public static void WritePlayingOn(DetailView view, Utf8Buffer html)
    {
        if (!view.Shape.PlaysOn)
            return;
        html.Append("<script src=\""u8);
        html.AppendEncoded($"{view.Frame.Mount}/_jexa/play.js");
        html.Append("\" data-next=\""u8);
        html.AppendEncoded(view.Next?.Address ?? "");
        html.Append("\" defer></script>\n"u8);
    }

    /// <summary>A record's fields, each with its label.</summary>
    public void WriteFields(PageView view, DetailShape shape, Row record, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = allParts.Of(shape);
        var values = new HtmlValues(view, html, scratch, "");
        html.Append("<dl class=\"record\">\n"u8);
        var terms = parts.Terms;
        for (var i = 0; i < parts.Fields.Length; i++)
        {
            if (parts.Fields[i].When?.Invoke(record) == false)
                continue;
            html.Append(terms[i]);
            terms = parts.NextTerms;
            values.Write(parts.Fields[i], record, shape.Title, false, default);
        }

        html.Append(terms == parts.NextTerms ? "</dd></div>\n</dl>\n"u8 : "</dl>\n"u8);
    }

    public static void WriteNeighbours(DetailView view, Utf8Buffer html)
    {
        if (view.NeighboursLeftOut)
            html.Append(
                "<p class=\"none\">The records before and behind this one are left out: finding them in this "u8
                    + "order takes too long.</p>\n"u8
            );
        if (view.Previous is null && view.Next is null)
            return;
        html.Append("<nav class=\"steps\" aria-label=\"Neighbours in the list\">\n"u8);
        HtmlFrame.WriteTurn(view.Previous?.Address, "prev"u8, "Previous: "u8, view.Previous?.Text ?? "", html);
        HtmlFrame.WriteTurn(view.Next?.Address, "next"u8, "Next: "u8, view.Next?.Text ?? "", html);
        html.Append("</nav>\n"u8);
    }

    public static void WriteLinks(DetailView view, HtmlValues values, Utf8Buffer html)
    {
        if (view.Shape.Links.Count == 0)
            return;
        var before = html.Length;
        html.Append("<ul class=\"links\">\n"u8);
        var empty = html.Length;
        foreach (var link in view.Shape.Links)
        {
            var start = html.Length;
            html.Append(link.IsGrave ? "<li class=\"grave\">"u8 : "<li>"u8);
            if (!values.TryOpen(link, view.Record, false, default))
            {
                html.Truncate(start);
                continue;
            }

            html.AppendEncoded(link.Text);
            html.Append("</a></li>\n"u8);
        }

        if (html.Length == empty)
            html.Truncate(before);
        else
            html.Append("</ul>\n"u8);
    }

    public void WriteBlock(DetailView view, BlockView block, int number, Utf8Buffer html, Utf8Buffer scratch)
    {
        html.Append("<section class=\"block\""u8);
        if (block.Shape.Title.Length > 0)
            WriteTitle(view, block, number, html);
        else
            html.Append(">\n"u8);
        if (block.HasFailed)
        {
            html.Append("<p class=\"none\">"u8);
            html.Append(Failure(block));
            html.Append("</p>\n"u8);
        }
        else if (block.Shape.Notice is { } notice)
            html.Append($"<div class=\"markdown\">{MarkdownText.ToHtml(notice, view.Frame)}</div>\n");
        else if (block.Rows!.Count == 0)
            WriteNone(block, html);
        else if (block.Shape.Choice is { } choice)
            WriteChoice(view, block, choice, html, scratch);
        else
            rows.Write(block.Shape.Rows!, block.Rows, view, "", html, scratch);
        if (block.All is { } all && (block.Rows?.Count > 0 || block.IsLate))
            WriteMore(all with { Text = AllText(view, block) }, html);
        if (block.Add is { } add)
            WriteMore(add, html);
        html.Append("</section>\n"u8);
    }

    /// <summary>Links to choose one of the records, and the chosen one in place.</summary>
    private void WriteChoice(DetailView view, BlockView block, ChoiceShape choice, Utf8Buffer html, Utf8Buffer scratch)
    {
        var values = new HtmlValues(view, html, scratch, "");
        html.Append("<nav aria-label=\""u8);
        html.AppendEncoded(block.Shape.Title);
        html.Append("\">\n<ul class=\"choices\">\n"u8);
        for (var i = 0; i < block.Rows!.Count; i++)
        {
            html.Append(i == block.Chosen ? "<li><a aria-current=\"true\" href=\""u8 : "<li><a href=\""u8);
            scratch.Truncate(0);
            choice.Own.TryWrite(view.Record, scratch);
            scratch.Append(scratch.Written.Contains((byte)'?') ? "&"u8 : "?"u8);
            scratch.Append($"{choice.Parameter}=");
            using (var id = new Utf8Buffer(64))
            {
                choice.Key.Key.TryWrite(block.Rows[i], choice.Key.Ordinal, id);
                PercentCoding.Encode(id.Written, scratch);
            }

            scratch.Append("#chosen-"u8);
            scratch.Append(choice.Parameter);
            html.AppendEncoded(scratch.Written);
            html.Append("\">"u8);
            values.WriteText(choice.Shape.Title, block.Rows[i]);
            html.Append("</a></li>\n"u8);
        }

        html.Append("</ul>\n</nav>\n<div id=\"chosen-"u8);
        html.AppendEncoded(choice.Parameter);
        html.Append("\">\n"u8);
        WriteFields(view, choice.Shape, block.Rows[block.Chosen], html, scratch);
        html.Append("</div>\n"u8);
    }

    /// <summary>Why a block is not there.</summary>
    public static ReadOnlySpan<byte> Failure(BlockView block) =>
        block.IsLate ? "This part is left out: finding it takes too long."u8 : "This part cannot be shown just now."u8;

    /// <summary>The words of the link to all records of a block.</summary>
    public static string AllText(PageView view, BlockView block) =>
        block.IsLate || block.Total.Count == 1
            ? $"All {block.Shape.Rows!.Many}"
            : $"All {CountText(view, block)} {block.Shape.Rows!.Many}";

    private static void WriteTitle(DetailView view, BlockView block, int number, Utf8Buffer html)
    {
        html.Append($" aria-labelledby=\"block-{number}\">\n<h2 id=\"block-{number}\">");
        html.AppendEncoded(block.Shape.Title);
        if (block.Rows is not null)
        {
            html.Append(" <span class=\"count\">"u8);
            html.AppendEncoded(CountText(view, block));
            html.Append("</span>"u8);
        }

        html.Append("</h2>\n"u8);
    }

    private static void WriteMore(PlainLink link, Utf8Buffer html)
    {
        html.Append("<p class=\"more\">"u8);
        HtmlFrame.WriteLink(link, html);
        html.Append("</p>\n"u8);
    }

    public static void WriteNone(BlockView block, Utf8Buffer html)
    {
        html.Append("<p class=\"none\">"u8);
        html.AppendEncoded($"There are no {block.Shape.Rows!.Many}.");
        html.Append("</p>\n"u8);
    }

    public static string CountText(PageView view, BlockView block) => HtmlText.Counted(block.Total, view.Frame.Conventions);
}
