using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the heading of a list, in which parameters may stand.</summary>
internal sealed class HeadingCompiler(FindingList findings)
{
    public HeadingPlan Compile(PageHead head, List<ParentPlan> parents)
    {
        var fallback = head.Heading;
        if (head.Definition.Title is not { } title || !title.Value.AsSpan().ContainsAny('{', '}'))
            return new HeadingPlan([], fallback);
        var pieces = new List<HeadingPiece>();
        foreach (var hole in TextHoles.Read(title, findings) ?? [])
        {
            if (hole.Literal is { } literal)
            {
                pieces.Add(new HeadingPiece(literal, -1, -1, null, null));
                continue;
            }

            var name = hole.Field!;
            var number = head.Parameters.ToList().FindIndex(parameter => parameter.Name == name.Value);
            if (number < 0)
            {
                findings.AddUnknown(
                    FindingCodes.UnknownParameter,
                    name,
                    $"parameter in the path {head.Definition.Path} called",
                    head.Template.Parameters
                );
                continue;
            }

            pieces.Add(
                new HeadingPiece(
                    null,
                    number,
                    parents.FindIndex(parent => parent.Parameters[^1] == number),
                    head.Parameters[number].Field,
                    head.Parameters[number].Key
                )
            );
        }

        return new HeadingPlan(pieces, fallback);
    }
}
