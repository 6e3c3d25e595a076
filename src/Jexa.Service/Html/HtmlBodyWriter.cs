using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Bodies;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Service.Media;

namespace Jexa.Service.Html;

/// <summary>Writes a page by its own design: the steps of its body, one after the other.</summary>
internal sealed class HtmlBodyWriter(
    PageView view,
    HtmlListWriter lists,
    HtmlDetailWriter details,
    HtmlRowWriter rows,
    Utf8Buffer html,
    Utf8Buffer scratch
)
{
    private readonly HtmlBodyOwn _own = new(view, html, scratch);

    private readonly HashSet<int> _failed = [];

    /// <summary>How many things have been shown so far: what shows nothing more is left out.</summary>
    private int _shown;

    /// <summary>The record in scope; <c>default</c> if there is none.</summary>
    private Row _row = view switch
    {
        DetailView detail => detail.Record,
        DeleteView delete => delete.Record,
        FormView { Row: { } edited } => edited,
        _ => default,
    };

    private HtmlValues _values = new(view, html, scratch, "");

    public void Write(PageBody body)
    {
        if (!body.HasNotice)
            _own.Notice();
        if (!body.HasFaults && view is FormView { Faults.Count: > 0 } form)
            HtmlFormWriter.Summary(form, html);
        Write(body.Steps);
        if (view is DeleteView)
            HtmlFormWriter.Script(view.Frame, "form.js", html);
        else if (body.HasForm && view is FormView filled)
            HtmlFormWriter.Scripts(filled, html);
        if (view is DetailView detail)
            HtmlDetailWriter.WritePlayingOn(detail, html);
    }

    private void Write(IReadOnlyList<BodyStep> steps)
    {
        for (var i = 0; i < steps.Count; i++)
            Write(steps[i]);
    }

    private void Write(BodyStep step)
    {
        switch (step)
        {
            case BodyStep.Literal literal:
                html.Append(literal.Html);
                break;
            case BodyStep.Value value:
                WriteValue(value);
                break;
            case BodyStep.Picture picture:
                WritePicture(picture);
                break;
            case BodyStep.Label label:
                _shown++;
                _values.WriteText(label.Text, _row);
                break;
            case BodyStep.Link link:
                WriteLink(link);
                break;
            case BodyStep.Group group:
                WriteGroup(group);
                break;
            case BodyStep.If choice:
                if (Holds(choice))
                {
                    _shown++;
                    Write(choice.Steps);
                }

                break;
            case BodyStep.Rows repeated:
                WriteRows(repeated);
                break;
            case BodyStep.Own or BodyStep.Words or BodyStep.OwnLink:
                Count(_own.Write(step));
                break;
            case BodyStep.Part part:
                WritePart(part);
                break;
            case BodyStep.Form form:
                WriteForm(form);
                break;
            case BodyStep.Control control:
                HtmlBodyControls.Write(control, view, html);
                break;
            default:
                throw new UnreachableException($"{step.GetType().Name} is not written as HTML.");
        }
    }

    private void Count(bool isShown) => _shown += isShown ? 1 : 0;

    private void WriteGroup(BodyStep.Group group)
    {
        var (start, before) = (html.Length, _shown);
        Write(group.Steps);
        if (_shown == before)
            html.Truncate(start);
    }

    private void WriteValue(BodyStep.Value value)
    {
        var column = value.Column;
        if (!value.IsCell && column.When?.Invoke(_row) == false)
            return;
        var isEmpty = column.IsEmpty(_row) || (column.IsLost(_row) && value.WhenEmpty is null);
        if (isEmpty && value.WhenEmpty is not { Length: 0 })
        {
            if (value.WhenEmpty is not { } instead)
                return;
            html.AppendEncoded(instead);
            _shown++;
            return;
        }

        switch (value.Place)
        {
            case BodyPlace.Content:
                _values.Write(column, _row, value.Title, value.IsQuiet, value.IsWhole ? HtmlRowWriter.Whole : default);
                break;
            case BodyPlace.Text:
                scratch.Truncate(0);
                column.WriteText(_row, scratch);
                html.AppendEncoded(scratch.Written);
                break;
            case BodyPlace.Stored:
                _values.WriteStored(column, _row);
                break;
            case BodyPlace.Address:
                if (!_values.WriteAddress(column, _row, "href"u8))
                    return;
                break;
            case BodyPlace.Source:
                if (!_values.WriteAddress(column, _row, "src"u8))
                    return;
                break;
            default:
                using (var plain = new Utf8Buffer(64))
                {
                    column.WriteText(_row, plain);
                    PercentCoding.Encode(plain.Written, html);
                }

                break;
        }

        _shown++;
    }

    private void WritePicture(BodyStep.Picture picture)
    {
        var start = html.Length;
        var (plan, column) = (picture.Of.Column.File!, picture.Of.Column);
        scratch.Truncate(0);
        string? file = null;
        var isThere = !column.IsEmpty(_row) && FolderFiles.TryFind(plan, _row, scratch, out file);
        if (!isThere && picture.WhenEmpty is null)
            return;
        var address = isThere ? scratch.Written.ToArray() : [];
        var before = _shown;
        Write(picture.Tag);
        if (isThere)
        {
            var media = new HtmlMedia(_values, html, scratch, false);
            media.WriteSize(file, picture.HasSize);
            scratch.Truncate(0);
            scratch.Append(address);
            media.WriteSource(file, picture.Sizes ?? HtmlMedia.WholeWidth);
        }
        else
        {
            html.Append(" src=\""u8);
            html.AppendEncoded(picture.WhenEmpty!);
            html.Append("\""u8);
        }

        if (!picture.HasWords)
        {
            html.Append(" alt=\""u8);
            _values.WriteWords(column, _row, picture.Of.Title);
            html.Append("\""u8);
        }

        html.Append(">"u8);
        _shown = before + 1;
    }

    private void WriteLink(BodyStep.Link link)
    {
        if (!_values.TryAddress(link.Plan, _row, link.Rest))
            return;
        Count(link.Counts);
    }

    private void WriteRows(BodyStep.Rows repeated)
    {
        var block = repeated.Block < 0 ? null : ((DetailView)view).Blocks[repeated.Block];
        if (block is { HasFailed: true })
        {
            WriteFailure(repeated.Block, repeated.Element);
            return;
        }

        var list = view as ListView;
        var all = block is null ? list!.Rows : block.Rows!;
        var (outer, values) = (_row, _values);
        _values = new HtmlValues(view, html, scratch, block is null ? list!.FromMark : "", HtmlValues.MostInList);
        for (var i = 0; i < all.Count; i++)
        {
            if (i > 0)
                html.Append(repeated.Between);
            _row = all[i];
            Write(repeated.Pattern);
            _shown++;
        }

        (_row, _values) = (outer, values);
    }

    /// <summary>The sentence about a block that could not be loaded, where its rows would stand; once.</summary>
    private void WriteFailure(int number, string element)
    {
        if (!_failed.Add(number))
            return;
        var open =
            element is "tr" or "tbody" ? "tr><td class=\"none\""
            : element == "li" ? "li class=\"none\""
            : "p class=\"none\"";
        html.Append($"<{open}>");
        html.Append(HtmlDetailWriter.Failure(((DetailView)view).Blocks[number]));
        html.Append(
            element is "tr" or "tbody" ? "</td></tr>"
            : element == "li" ? "</li>"
            : "</p>"
        );
        _shown++;
    }

    private bool Holds(BodyStep.If choice)
    {
        foreach (var test in choice.Tests)
            if (choice.Needs && test is BodyTest.Rows { Block: >= 0 } rows && ((DetailView)view).Blocks[rows.Block].HasFailed)
                WriteFailure(rows.Block, "p");

        foreach (var test in choice.Tests)
            if (Holds(test, choice.Needs) != choice.Needs)
                return false;
        return true;
    }

    /// <param name="needs">Whether it is needed that it holds. What is not known neither holds nor lacks.</param>
    private bool Holds(BodyTest test, bool needs) =>
        test switch
        {
            BodyTest.Field { Value: null } field => !field.Column.IsEmpty(_row) && !field.Column.IsLost(_row),
            BodyTest.Field field => !field.Column.IsEmpty(_row) && _values.IsStored(field.Column, _row, field.Value!),
            BodyTest.Rows { Block: < 0 } => ((ListView)view).Rows.Count > 0,
            BodyTest.Rows rows => ((DetailView)view).Blocks[rows.Block] is var block && block.HasFailed
                ? !needs
                : block.Rows?.Count > 0,
            BodyTest.Own own => _own.Has(own),
            _ => throw new UnreachableException(),
        };

    private void WriteForm(BodyStep.Form form)
    {
        html.Append(form.Open);
        if (view is ListView list)
        {
            html.Append(" method=\"get\" action=\""u8);
            html.AppendEncoded(list.Controls.Action);
            html.Append("\">\n"u8);
            foreach (var (name, value) in list.Controls.Kept.Where(one => !form.Names.Contains(one.Name)))
                HtmlFormWriter.HiddenNamed(name, value, html);
            Write(form.Steps);
            html.Append("</form>\n"u8);
            return;
        }

        HtmlFormWriter.Begin((FormView)view, html);
        Write(form.Steps);
        HtmlFormWriter.End(html);
    }

    private void WritePart(BodyStep.Part part)
    {
        var start = html.Length;
        switch (view)
        {
            case ListView list:
                new HtmlBodyParts(lists, details, rows, html, scratch).Write(part, list);
                break;
            case DetailView detail:
                new HtmlBodyParts(lists, details, rows, html, scratch).Write(part, detail);
                break;
            case DeleteView delete:
                new HtmlBodyParts(lists, details, rows, html, scratch).Write(part, delete);
                break;
            case FormView form:
                HtmlBodyParts.Write(part, form, html);
                break;
            default:
                throw new UnreachableException($"{view.GetType().Name} has no parts.");
        }

        Count(html.Length > start);
    }
}
