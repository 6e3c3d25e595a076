using System.Diagnostics;
using Jexa.Core.Bodies;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes what a page has by itself where its body says so: texts, and the addresses of links.</summary>
internal sealed class HtmlBodyOwn(PageView view, Utf8Buffer html, Utf8Buffer scratch)
{
    /// <summary>The page's notice, as the built-in pages show it.</summary>
    public void Notice()
    {
        if (view is ListView { Notice: { } notice })
            HtmlListWriter.WriteNotice(notice, html);
        else if (view is FormView { Notice: { } said })
            HtmlFormWriter.Notice(said, html);
        else if (view is DeleteView { Notice: { } why })
            HtmlFormWriter.Notice(why, html);
    }

    /// <summary>Writes a text, the words of a link or its address. False if the page has none.</summary>
    public bool Write(BodyStep step) =>
        step switch
        {
            BodyStep.Own own => Text(own),
            BodyStep.Words words => Words(words),
            BodyStep.OwnLink link => Link(link),
            _ => throw new UnreachableException($"{step.GetType().Name} is nothing of the page's own."),
        };

    /// <summary>Writes a text. False if the page has none.</summary>
    private bool Text(BodyStep.Own own)
    {
        if (own.Word == BodyWord.Title)
        {
            scratch.Truncate(0);
            HtmlPageWriter.WriteHeading(view, scratch);
            html.AppendEncoded(scratch.Written);
            return true;
        }

        if (TextOf(own) is not { Length: > 0 } text)
            return false;
        html.AppendEncoded(text);
        return true;
    }

    private string? TextOf(BodyStep.Own own) =>
        own.Word switch
        {
            BodyWord.Said => view.Said,
            BodyWord.Notice => (view as ListView)?.Notice ?? (view as FormView)?.Notice ?? (view as DeleteView)?.Notice,
            BodyWord.Total when Block(own.Block) is { Rows: not null } block => HtmlDetailWriter.CountText(view, block)
                + $" {(block.Total is { Count: 1, IsExact: true } ? block.Shape.Rows!.One : block.Shape.Rows!.Many)}",
            BodyWord.Total when view is ListView list => HtmlListWriter.TotalText(list),
            BodyWord.Count when Block(own.Block) is { Rows: not null } block => HtmlDetailWriter.CountText(view, block),
            BodyWord.Count when view is ListView list => HtmlText.Counted(list.Total, view.Frame.Conventions),
            BodyWord.Fault => Input(own.Name) is { Faults.Count: > 0 } input ? string.Join(' ', input.Faults) : null,
            BodyWord.Help => Input(own.Name) is { } input ? HtmlControls.Hint(input) : null,
            _ => null,
        };

    private FormInput? Input(string name) => (view as FormView)?.Inputs.FirstOrDefault(input => input.Name == name);

    private BlockView? Block(int number) => number < 0 ? null : (view as DetailView)?.Blocks[number];

    /// <summary>Writes the words of a link that the page has by itself. False if there is no such link.</summary>
    private bool Words(BodyStep.Words words)
    {
        if (Find(words.Word, words.Block, words.Name) is not { } link)
            return false;
        html.AppendEncoded(link.Text);
        return true;
    }

    /// <summary>Writes the address of a link as an attribute. False if the page has no such link.</summary>
    private bool Link(BodyStep.OwnLink link)
    {
        if (Find(link.Word, link.Block, link.Name) is not { } found)
            return false;
        html.Append(" href=\""u8);
        html.AppendEncoded(found.Address);
        html.Append(
            link.Word switch
            {
                BodyWord.Next => "\" rel=\"next\""u8,
                BodyWord.Prev => "\" rel=\"prev\""u8,
                BodyWord.Order => "\" rel=\"nofollow\""u8,
                _ => "\""u8,
            }
        );
        return link.Counts;
    }

    /// <summary>Whether the page has something.</summary>
    public bool Has(BodyTest.Own own)
    {
        if (own.Count is { } count)
            return (Block(own.Block)?.Total ?? (view as ListView)?.Total) is { IsExact: true } total && total.Count == count;
        return own.Word switch
        {
            BodyWord.Title => true,
            BodyWord.Failed => Block(own.Block)?.HasFailed == true,
            BodyWord.Count or BodyWord.Total => Block(own.Block)?.Rows?.Count > 0 || view is ListView { Rows.Count: > 0 },
            BodyWord.Said or BodyWord.Notice or BodyWord.Fault or BodyWord.Help => TextOf(
                new BodyStep.Own(own.Word, own.Block, own.Name)
            )
                is { Length: > 0 },
            _ => Find(own.Word, own.Block, own.Name) is not null,
        };
    }

    private PlainLink? Find(BodyWord word, int block, string name) =>
        (word, view) switch
        {
            (BodyWord.All, DetailView) when Block(block) is { All: { } all, Rows.Count: > 0 } shown => all with
            {
                Text = HtmlDetailWriter.AllText(view, shown),
            },
            (BodyWord.Add, DetailView) => Block(block)?.Add,
            (BodyWord.Add, ListView list) => list.Add,
            (BodyWord.Next, DetailView detail) => detail.Next,
            (BodyWord.Prev, DetailView detail) => detail.Previous,
            (BodyWord.Back, DetailView detail) => detail.Back,
            (BodyWord.Back, FormView form) => form.Back,
            (BodyWord.Back, DeleteView delete) => delete.Shape.Back,
            (BodyWord.Cancel, FormView form) => form.Cancel,
            (BodyWord.Cancel, DeleteView delete) => delete.Cancel,
            (BodyWord.Next, ListView list) => Turn("Next", list.Windows.Next),
            (BodyWord.Prev, ListView list) => Turn("Previous", list.Windows.Previous),
            (BodyWord.First, ListView list) => Turn("First", list.Windows.First),
            (BodyWord.Last, ListView list) => Turn("Last", list.Windows.Last),
            (BodyWord.Order, ListView list) => list.Controls.Orders.FirstOrDefault(order => order.Name == name) is { } order
                ? new PlainLink("", order.Label, order.Address)
                : null,
            _ => null,
        };

    private static PlainLink? Turn(string text, string? address) => address is null ? null : new PlainLink("", text, address);
}
