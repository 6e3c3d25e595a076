using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles text pages.</summary>
internal sealed class TextCompiler(FrameCompiler frames, FindingList findings)
{
    public TextPage Compile(PageHead head)
    {
        var source = frames.TextOf(head.Definition.Text) ?? "";
        foreach (
            var text in new[]
            {
                head.Definition.Title,
                new Written(source, head.Definition.Text!.At) { IsOneRun = false },
            }.OfType<Written>()
        )
        foreach (var name in TextPage.Holes(text.Value).Where(name => !head.Template.Parameters.Contains(name)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                text with
                {
                    Value = name,
                },
                $"parameter in the path {head.Definition.Path} called",
                head.Template.Parameters
            );
        return new TextPage(head, head.Definition.Title?.Value ?? Formats.Labels.OfPage(head.Name), source);
    }
}
