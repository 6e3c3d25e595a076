using AngleSharp.Dom;
using Jexa.Core.Bodies;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles a page's own design into steps: walks the file once, resolves each name, and reports what stands for nothing or
/// cannot hold a value.
/// </summary>
internal sealed class BodyCompiler
{
    private readonly BodyContext _context;
    private readonly BodyAttributes _attributes;
    private readonly BodyValues _values;
    private readonly BodyOwnThings _own;
    private readonly BodyControls _controls;

    private BodyCompiler(BodyContext context)
    {
        _context = context;
        _attributes = new BodyAttributes(context);
        var samples = new BodySamples(context, Children);
        _values = new BodyValues(context, _attributes, samples);
        _own = new BodyOwnThings(context, _attributes, samples);
        _controls = new BodyControls(context, _attributes);
    }

    /// <summary>The body of a page.</summary>
    public static PageBody Compile(BodyContext context)
    {
        var compiler = new BodyCompiler(context);
        var main = context.Document.Main;
        compiler.Children(main, context.Root);
        compiler._controls.CheckAll();
        context.CheckBound();
        var steps = context.Out.End();
        context.Out.Begin();
        if (context.Document.Own is { } own)
            compiler._attributes.Write(own, context.Root, ["id"]);
        var attributes = context.Out.End().OfType<BodyStep.Literal>().FirstOrDefault()?.Html ?? [];
        var head = compiler._attributes.Files.Head(context.Document);
        return new PageBody(attributes, head, steps)
        {
            HasSaid = context.Placed.Contains(BodyWord.Said),
            HasNotice = context.Placed.Contains(BodyWord.Notice),
            HasFaults = context.PlacedParts.Contains(BodyPart.Faults),
            HasForm = compiler._controls.HasForm,
            Files = compiler._attributes.Files.Used,
            Made = compiler._attributes.Files.Made,
        };
    }

    /// <summary>Compiles what an element holds. True if all of it can be left out, and something can.</summary>
    private bool Children(IElement parent, BodyScope scope)
    {
        var (any, kept) = (false, false);
        for (var i = 0; i < parent.ChildNodes.Length; i++)
        {
            switch (parent.ChildNodes[i])
            {
                case IText text when scope.Replaced is { } replaced && replaced.Sample == text:
                    _context.Out.Add(replaced.Step);
                    any = true;
                    break;
                case IText text:
                    kept |= !string.IsNullOrWhiteSpace(text.Data);
                    _context.Out.Words(text.Data);
                    break;
                case IElement term when IsTermOf(term, out var only):
                    // A term goes with its only description.
                    _context.Out.Begin();
                    while (i < parent.ChildNodes.Length && parent.ChildNodes[i] != only)
                        Node(parent.ChildNodes[i++], scope);
                    var goes = Element(only, scope);
                    _context.Out.Take(_context.Out.End(), goes);
                    (any, kept) = (any | goes, kept | !goes);
                    break;
                case IElement element when Skips(element):
                    break;
                case IElement element:
                    if (Element(element, scope))
                        any = true;
                    else
                        kept = true;
                    break;
            }
        }

        return any && !kept;
    }

    private void Node(INode node, BodyScope scope)
    {
        if (node is IText text)
            _context.Out.Words(text.Data);
        else if (node is IElement element)
            Element(element, scope);
    }

    /// <summary>Whether an element is a term with one description, which names a field.</summary>
    private static bool IsTermOf(IElement term, out IElement only)
    {
        only = term.NextElementSibling!;
        return term.LocalName == "dt"
            && only is { LocalName: "dd" }
            && only.NextElementSibling?.LocalName != "dd"
            && !term.HasAttribute("itemprop");
    }

    /// <summary>Whether an element is a sample that a pattern before it stands for.</summary>
    private bool Skips(IElement element) => _context.Samples.Contains(element);

    /// <summary>Compiles one element. True if it can be left out.</summary>
    private bool Element(IElement element, BodyScope scope)
    {
        if (scope.Replaced is { } replaced && replaced.Sample == element)
        {
            _context.Out.Add(replaced.Step);
            return true;
        }

        var name = element.LocalName;
        if (name is "script" or "style")
        {
            _attributes.Files.Lift(element);
            return false;
        }

        if (BodyElements.Refused.Contains(name) && !(name == "meta" && element.HasAttribute("itemprop")))
        {
            _context.Refuse(element, name);
            return false;
        }

        if (BodyElements.Closed.Contains(name))
            return ClosedElement(element, scope);
        return element.HasAttribute("data-needs") || element.HasAttribute("data-lacks")
            ? Conditional(element, scope)
            : Unconditional(element, scope);
    }

    private bool Conditional(IElement element, BodyScope scope)
    {
        var needs = _own.Tests(element, "data-needs", scope);
        var lacks = _own.Tests(element, "data-lacks", scope);
        _context.Out.Begin();
        Unconditional(element, scope);
        var steps = _context.Out.End();
        if (lacks.Count > 0)
            steps = [new BodyStep.If(lacks, false, steps)];
        if (needs.Count > 0)
            steps = [new BodyStep.If(needs, true, steps)];
        foreach (var step in steps)
            _context.Out.Add(step);
        return true;
    }

    private bool Unconditional(IElement element, BodyScope scope)
    {
        if (element.GetAttribute("data-part") is { } part)
            return _own.Part(element, part, scope);
        if (element.GetAttribute("itemprop") is { Length: > 0 } prop && !prop.Contains(':'))
            return element.HasAttribute("itemscope")
                ? _values.Records(element, prop, scope)
                : _values.Value(element, prop, scope);
        if (element.GetAttribute("data-page") is { } word)
            return _own.Word(element, word, scope);
        if (_controls.IsForm(element))
            return _controls.Form(element, () => Children(element, scope));
        if (_controls.IsControl(element, scope))
            return _controls.Control(element, scope);
        return Plain(element, scope);
    }

    /// <summary>An element that is bound to nothing itself. Only a link to a page can be left out by itself.</summary>
    private bool Plain(IElement element, BodyScope scope)
    {
        var name = element.LocalName;
        _context.Out.Begin();
        _context.Out.Html($"<{name}");
        var link = _attributes.Link(element, scope, CountsAlone(element));
        _attributes.Write(element, scope, link ? ["href"] : []);
        if (name == "button" && !element.HasAttribute("type"))
            _context.Out.Html(" type=\"submit\"");
        _context.Out.Html(">");
        var isEmptied = false;
        if (!BodyElements.Void.Contains(name))
        {
            isEmptied = Children(element, link ? scope with { IsLinked = true } : scope);
            _context.Out.Html($"</{name}>");
        }

        var goes = link ? isEmptied || CountsAlone(element) : isEmptied && !BodyElements.Staying.Contains(name);
        _context.Out.Take(_context.Out.End(), goes);
        return goes;
    }

    /// <summary>Whether a link has only words of its own: without its address nothing of it is left.</summary>
    private static bool CountsAlone(IElement element) => element.QuerySelector("[itemprop], [data-page], [data-part]") is null;

    /// <summary>A drawing, a formula or a template: as it is, and without values.</summary>
    private bool ClosedElement(IElement element, BodyScope scope)
    {
        if (element.QuerySelector("[itemprop], [data-page], [data-part], [data-needs], [data-lacks]") is { } bound)
            _context.Misplace(
                bound,
                $"A value cannot stand in <{element.LocalName}>.",
                "Put it beside the drawing, or leave the drawing as it is."
            );
        Copy(element, scope);
        return false;
    }

    private void Copy(IElement element, BodyScope scope)
    {
        if (element.LocalName is "script" or "style" or "foreignobject")
            return;
        _context.Out.Html($"<{element.TagName.ToLowerInvariant()}");
        _attributes.Write(element, scope, []);
        _context.Out.Html(">");
        foreach (var node in element.ChildNodes)
            if (node is IText text)
                _context.Out.Words(text.Data);
            else if (node is IElement child)
                Copy(child, scope);
        _context.Out.Html($"</{element.TagName.ToLowerInvariant()}>");
    }
}
