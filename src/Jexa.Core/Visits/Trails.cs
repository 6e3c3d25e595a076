using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Makes links to the records above a row.</summary>
internal static class Trails
{
    public static IReadOnlyList<PlainLink> Of(TrailPlan plan, Row row)
    {
        if (plan.Steps.Count == 0)
            return [];
        var trail = new List<PlainLink>();
        if (plan.Root is { } root)
            trail.Add(root);
        using var text = new Utf8Buffer(64);
        foreach (var step in plan.Steps)
        {
            if (row[step.Presence].IsNull)
                continue;
            text.Truncate(0);
            step.Label.Write(row, text);
            var label = text.ToString();
            text.Truncate(0);
            trail.Add(new PlainLink(step.Link?.Page ?? "", label, step.Link?.TryWrite(row, text) == true ? text.ToString() : ""));
        }

        return trail;
    }
}
