using System.Text;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>
/// Writes a page, as Jexa draws it, as a body: the same elements, with samples made from labels and types. Served back it is the
/// same page.
/// </summary>
public sealed class HtmlBodyDraft
{
    private readonly StringBuilder _html = new();

    private HtmlBodyDraft() { }

    /// <summary>A body for a page; null for a text page, which is its text.</summary>
    public static string? Of(Page page, PageFrame frame)
    {
        var draft = new HtmlBodyDraft();
        draft.Line("<!DOCTYPE html>");
        draft.Line($"<html lang=\"{Encoded(frame.Conventions.Language)}\">");
        draft.Line($"<head>\n<meta charset=\"utf-8\">\n<title>{Encoded(page.Head.Heading)}</title>\n</head>");
        draft.Line("<body>\n<main itemscope>");
        switch (page)
        {
            case ListPage list:
                draft.List(list);
                break;
            case DetailPage detail:
                draft.Detail(detail);
                break;
            case EditPage edit:
                draft.Form($"Edit {page.Record!.One}", "Save", edit.Form, edit.Cancel is not null);
                break;
            case NewPage fresh:
                draft.Form(
                    fresh.Title,
                    $"Add {page.Record!.One}",
                    fresh.Form,
                    fresh.Cancel is not null || fresh.Parents.Count > 0
                );
                break;
            case DeletePage:
                draft.Delete(page.Record!.One);
                break;
            default:
                return null;
        }

        draft.Line("</main>\n</body>\n</html>");
        return draft._html.ToString();
    }

    private void List(ListPage page)
    {
        var record = page.Record!;
        Line("<nav data-part=\"trail\"></nav>");
        Line($"<div class=\"lead\">\n<h1 data-page=\"title\">{Encoded(page.Head.Heading)}</h1>");
        Line($"<p class=\"total\" data-page=\"total\">80 {Encoded(record.Many)}</p>");
        if (page.Add is { } add)
            Line($"<p class=\"add\"><a data-page=\"add\" href=\"#\">{Encoded(add.Text)}</a></p>");
        Line("</div>\n<p class=\"notice\" role=\"status\" data-page=\"notice\">Why you are here</p>");
        if (page.Sides.Count > 0)
            Line("<div class=\"sided\">\n<div class=\"middle\">");
        Line("<form data-part=\"controls\"></form>");
        if (page.Shape.Look == ListLook.Bullets)
        {
            Line("<ul data-part=\"rows\"></ul>");
        }
        else
        {
            Line("<p data-part=\"none\"></p>");
            Rows(page.Shape, record.Name, "headings");
        }

        Line("<nav data-part=\"turns\"></nav>");
        if (page.Sides.Count > 0)
            Line("</div>\n<div data-part=\"side\"></div>\n</div>");
    }

    private void Rows(ListShape shape, string name, string headings)
    {
        if (shape.Look == ListLook.Cards)
            Cards(shape, name);
        else
            Table(shape, name, headings);
    }

    private void Table(ListShape shape, string name, string headings)
    {
        Line($"<table class=\"list\" data-needs=\"{name}\">\n<thead data-part=\"{headings}\"></thead>\n<tbody>");
        Line($"<tr{(shape.RowLink is null ? "" : " class=\"leads\"")} itemprop=\"{name}\" itemscope>");
        foreach (var column in shape.Columns)
            Line(
                $"<td{HtmlParts.Kind(column)} data-label=\"{Encoded(column.Label)}\" "
                    + $"itemprop=\"{column.Name}\">{Sample(column)}</td>"
            );
        foreach (var action in shape.Actions)
            Line($"<td class=\"action\">{Action(action)}</td>");
        Line("</tr>\n</tbody>\n</table>");
    }

    private void Cards(ListShape shape, string name)
    {
        Line($"<ul class=\"cards\" data-needs=\"{name}\">");
        Line($"<li class=\"card{(shape.RowLink is null ? "" : " leads")}\" itemprop=\"{name}\" itemscope>");
        foreach (var column in shape.Columns.Where(column => column.Picture is not null))
            Line($"<div class=\"card-picture\" itemprop=\"{column.Name}\" data-empty>{Sample(column)}</div>");
        if (shape.Columns.Count > 0)
        {
            var main = shape.Columns[shape.Main];
            Line($"<p class=\"card-title\" itemprop=\"{main.Name}\" data-empty>{Sample(main)}</p>");
        }

        var rest = shape.Columns.Where((column, i) => i != shape.Main && column.Picture is null).ToList();
        if (rest.Count > 0)
            Line("<dl>");
        foreach (var column in rest)
            Line($"<div><dt>{Encoded(column.Label)}</dt><dd itemprop=\"{column.Name}\">{Sample(column)}</dd></div>");
        if (rest.Count > 0)
            Line("</dl>");
        foreach (var action in shape.Actions)
            Line($"<p class=\"action\">{Action(action)}</p>");
        Line("</li>\n</ul>");
    }

    private static string Action(LinkPlan action) =>
        $"<a href=\"page:{action.Page}\">{Encoded(action.Text)}"
        + "<span class=\"unseen\">: <span data-page=\"label\">Label</span></span></a>";

    private void Detail(DetailPage page)
    {
        var shape = page.Shape;
        Line("<nav data-part=\"trail\"></nav>");
        Line($"<div class=\"lead\">\n<h1 data-page=\"title\">{Encoded(Labels.Capital(shape.One))}</h1>");
        Line("<nav data-part=\"neighbours\"></nav>\n</div>");
        Links(shape.Links);
        Line("<dl class=\"record\">");
        foreach (var field in shape.Fields)
            Line(
                $"<div{(field.Style.Form.IsWide() ? " class=\"wide\"" : "")}><dt>{Encoded(field.Label)}</dt>"
                    + $"<dd itemprop=\"{field.Name}\" data-empty>{Sample(field)}</dd></div>"
            );
        Line("</dl>");
        for (var i = 0; i < page.Blocks.Count; i++)
            Block(page.Blocks[i], i);
    }

    /// <summary>The links of a page. Two to the same page cannot be told apart by its name: Jexa draws them.</summary>
    private void Links(IReadOnlyList<LinkPlan> links)
    {
        if (links.Count == 0)
            return;
        if (links.DistinctBy(link => link.Page).Count() < links.Count)
        {
            Line("<ul data-part=\"links\"></ul>");
            return;
        }

        Line("<ul class=\"links\">");
        foreach (var link in links)
            Line($"<li{(link.IsGrave ? " class=\"grave\"" : "")}><a href=\"page:{link.Page}\">{Encoded(link.Text)}</a></li>");
        Line("</ul>");
    }

    private void Block(BlockPlan block, int number)
    {
        var (name, shape) = (block.Name, block.Shape);
        if (shape.Rows is not { Look: not ListLook.Bullets } rows || shape.Title.Length == 0 || shape.Choice is not null)
        {
            Line($"<section data-part=\"{name}\"></section>");
            return;
        }

        Line($"<section class=\"block\" aria-labelledby=\"block-{number}\">");
        Line($"<h2 id=\"block-{number}\">{Encoded(shape.Title)} <span class=\"count\" data-page=\"{name}.count\">4</span></h2>");
        Line($"<p data-part=\"{name}.none\"></p>");
        Rows(rows, name, $"{name}.headings");
        Line($"<p class=\"more\"><a data-page=\"{name}.all\" href=\"#\"></a></p>");
        Line($"<p class=\"more\"><a data-page=\"{name}.add\" href=\"#\"></a></p>");
        Line("</section>");
    }

    private void Form(string title, string button, FormPlan form, bool canLeave)
    {
        Line("<nav data-part=\"trail\"></nav>");
        Line($"<h1 data-page=\"title\">{Encoded(title)}</h1>");
        Line("<p class=\"notice\" role=\"alert\" data-page=\"notice\">What happened</p>");
        Line("<div data-part=\"faults\"></div>");
        if (form.Tied.Count > 0)
        {
            Line("<form data-part=\"form\"></form>");
        }
        else
        {
            Line("<form class=\"fill\">");
            foreach (var entry in form.Entries)
                Line($"<div data-part=\"field.{entry.Name}\">{Encoded(entry.Field.Label)}</div>");
            var leave = canLeave ? " <a class=\"leave\" data-page=\"cancel\" href=\"#\"></a>" : "";
            Line($"<p class=\"do\"><button type=\"submit\" class=\"main\">{Encoded(button)}</button>{leave}</p>\n</form>");
        }

        Line("<ul data-part=\"links\"></ul>");
    }

    private void Delete(string one)
    {
        Line("<nav data-part=\"trail\"></nav>");
        Line($"<h1 data-page=\"title\">Delete {Encoded(one)}</h1>");
        Line("<p class=\"notice\" role=\"alert\" data-page=\"notice\">What happened</p>");
        Line("<form data-part=\"delete\"></form>");
        Line("<dl data-part=\"fields\"></dl>");
    }

    /// <summary>What a value could look like.</summary>
    private static string Sample(ViewColumn column) =>
        column.Picture is not null ? "picture"
        : column.Reference is not null ? Encoded(Labels.Capital(column.Label))
        : column.Style.Choices.Count > 0 ? Encoded(column.Style.Choices.Values.First())
        : column.Type switch
        {
            FieldType.Integer or FieldType.Real or FieldType.Decimal => column.IsId
                ? "7"
                : $"12{Encoded(column.Style.Unit is { } unit ? $" {unit}" : "")}",
            FieldType.Date => "1 May 2020",
            FieldType.Timestamp => "1 May 2020, 12:00",
            FieldType.Boolean => "yes",
            _ => Encoded(column.Label),
        };

    private static string Encoded(string text) => Encoding.UTF8.GetString(HtmlText.Encoded(text));

    private void Line(string html) => _html.Append(html).Append('\n');
}
