using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the other records that a page's parameters name. Each must exist.</summary>
internal sealed class ParentCompiler(RecordGraph graph, TrailCompiler trails)
{
    /// <summary>The records that parameters name completely: a record must exist for each foreign key that equals them.</summary>
    public List<ParentPlan> Of(PageHead head)
    {
        var parents = new List<ParentPlan>();
        var equal = head
            .Parameters.Select((parameter, i) => (parameter, i))
            .Where(pair => pair.parameter is { IsEqual: true, Many: false })
            .ToList();
        foreach (
            var group in equal.GroupBy(pair =>
                string.Join('.', (pair.parameter.Path?.Steps ?? []).Select(step => step.Key.Columns[0]))
            )
        )
        {
            var holder = group.First().parameter.Path?.Owner(head.Record) ?? head.Record;
            Collect(
                holder,
                group
                    .DistinctBy(pair => pair.parameter.Field.Column.Name)
                    .ToDictionary(pair => pair.parameter.Field.Column.Name, pair => (pair.i, pair.parameter.Key)),
                parents
            );
        }

        // A record named by several parameters is nearer than one named by fewer.
        return [.. parents.OrderBy(parent => parent.Parameters.Count)];
    }

    /// <summary>The records that some columns, each equal to a parameter, refer to; and those that their keys refer to.</summary>
    private void Collect(SiteRecord holder, Dictionary<string, (int Number, KeyType Key)> named, List<ParentPlan> parents)
    {
        foreach (var step in graph.Steps(holder).Where(step => step.Key.Columns.All(named.ContainsKey)))
        {
            var parts = step.Key.Columns.Select(column => named[column]).ToList();
            if (
                parents.Exists(parent =>
                    parent.Record == step.Other && parent.Parameters.SequenceEqual(parts.Select(part => part.Number))
                )
            )
                continue;
            parents.Add(Parent(step, [.. parts.Select(part => part.Number)], [.. parts.Select(part => part.Key)]));
            Collect(
                step.Other,
                step.Key.References.Zip(parts)
                    .DistinctBy(pair => pair.First)
                    .ToDictionary(pair => pair.First, pair => pair.Second),
                parents
            );
        }
    }

    private ParentPlan Parent(FieldStep step, List<int> parameters, List<KeyType> keys)
    {
        var load = new Projections(step.Other);
        var fields = step.Key.References.Select(column => step.Other.Fields.First(field => field.Column.Name == column)).ToList();
        var label = load.Label(step.Other, 0);
        var trail = trails.Above(step.Other, 0, load, itself: true);
        var key = fields.Select((field, i) => LookupPart.Of(keys[i], FieldPath.Own(field), load)).ToList();
        var lookup = Lookups.Compile(step.Other, load, key, step.Other.Visible);
        return new ParentPlan(step.Other, parameters, lookup, label, trail);
    }
}
