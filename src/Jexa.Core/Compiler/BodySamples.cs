using AngleSharp.Dom;
using Jexa.Core.Bodies;

namespace Jexa.Core.Compiler;

/// <summary>Puts what is compiled where the design has a sample of it.</summary>
/// <param name="children">Compiles what an element holds. True if all of it can be left out.</param>
internal sealed class BodySamples(BodyContext context, Func<IElement, BodyScope, bool> children)
{
    public void Children(IElement element, BodyScope scope) => children(element, scope);

    /// <summary>Puts a step in the place of the one text of an element, or into an element that is empty.</summary>
    public void Replace(IElement element, BodyStep step, BodyScope scope)
    {
        var texts = element.Descendants<IText>().Where(text => !string.IsNullOrWhiteSpace(text.Data)).ToList();
        if (texts.Count == 0 && element.ChildElementCount == 0)
            context.Out.Add(step);
        else if (texts is [var only])
            children(element, scope with { Replaced = (only, step) });
        else
            context.Misplace(
                element,
                texts.Count == 0
                    ? $"There is no sample text in <{element.LocalName}> that the value could stand for."
                    : $"There are {texts.Count} texts in <{element.LocalName}>, and one value.",
                "Bind the element that holds just the sample."
            );
    }
}
