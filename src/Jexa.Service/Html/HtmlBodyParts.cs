using Jexa.Core.Bodies;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the parts of a page that its body leaves to Jexa.</summary>
internal readonly struct HtmlBodyParts(
    HtmlListWriter lists,
    HtmlDetailWriter details,
    HtmlRowWriter rows,
    Utf8Buffer html,
    Utf8Buffer scratch
)
{
    public void Write(BodyStep.Part part, ListView view)
    {
        switch (part.What)
        {
            case BodyPart.Messages:
                HtmlPageWriter.WriteSaid(view, html);
                if (view.Notice is { } notice)
                    HtmlListWriter.WriteNotice(notice, html);
                break;
            case BodyPart.Trail:
                HtmlFrame.WriteTrail(view.Trail, null, html);
                break;
            case BodyPart.Rows when view.Rows.Count > 0:
                rows.Write(view.Shape, view.Rows, view, view.FromMark, html, scratch);
                break;
            case BodyPart.None or BodyPart.Rows when view.Rows.Count == 0:
                HtmlListWriter.WriteNoRows(view, html);
                break;
            case BodyPart.Controls:
                lists.WriteControls(view, html);
                break;
            case BodyPart.Headings:
                rows.WriteHead(view.Shape, view.Controls, html);
                break;
            case BodyPart.Turns:
                HtmlListWriter.WriteTurns(view, html);
                break;
            case BodyPart.Side when view.Sides.Count > 0:
                HtmlSides.Write(view, html);
                break;
        }
    }

    public void Write(BodyStep.Part part, DetailView view)
    {
        var block = part.Block < 0 ? null : view.Blocks[part.Block];
        switch (part.What)
        {
            case BodyPart.Messages:
                HtmlPageWriter.WriteSaid(view, html);
                break;
            case BodyPart.Trail:
                HtmlFrame.WriteTrail(view.Trail, view.Back, html);
                break;
            case BodyPart.Fields:
                details.WriteFields(view, view.Shape, view.Record, html, scratch);
                break;
            case BodyPart.Links:
                HtmlDetailWriter.WriteLinks(view, new HtmlValues(view, html, scratch, ""), html);
                break;
            case BodyPart.Neighbours:
                HtmlDetailWriter.WriteNeighbours(view, html);
                break;
            case BodyPart.Block:
                details.WriteBlock(view, block!, part.Block, html, scratch);
                break;
            case BodyPart.None when block is { HasFailed: false, Rows.Count: 0 }:
                HtmlDetailWriter.WriteNone(block, html);
                break;
            case BodyPart.Headings:
                rows.WriteHead(block!.Shape.Rows!, null, html);
                break;
        }
    }

    public void Write(BodyStep.Part part, DeleteView view)
    {
        switch (part.What)
        {
            case BodyPart.Messages:
                HtmlPageWriter.WriteSaid(view, html);
                if (view.Notice is { } notice)
                    HtmlFormWriter.Notice(notice, html);
                break;
            case BodyPart.Trail:
                HtmlFrame.WriteTrail(view.Trail, view.Shape.Back, html);
                break;
            case BodyPart.Fields:
                details.WriteFields(view, view.Shape, view.Record, html, scratch);
                break;
            case BodyPart.Delete:
                HtmlDeleteWriter.WriteQuestion(view, html);
                break;
        }
    }

    public static void Write(BodyStep.Part part, FormView view, Utf8Buffer html)
    {
        switch (part.What)
        {
            case BodyPart.Messages:
                HtmlPageWriter.WriteSaid(view, html);
                if (view.Notice is { } notice)
                    HtmlFormWriter.Notice(notice, html);
                break;
            case BodyPart.Trail:
                HtmlFrame.WriteTrail(view.Trail, view.Back, html);
                break;
            case BodyPart.Faults when view.Faults.Count > 0:
                HtmlFormWriter.Summary(view, html);
                break;
            case BodyPart.Form:
                HtmlFormWriter.Form(view, html);
                HtmlFormWriter.Scripts((FormView)view, html);
                break;
            case BodyPart.Field when view.Inputs.FirstOrDefault(input => input.Name == part.Name) is { } input:
                HtmlFormWriter.Field(view, input, html);
                break;
            case BodyPart.Links:
                HtmlFrame.WriteLinks(view.Links, html);
                break;
        }
    }
}
