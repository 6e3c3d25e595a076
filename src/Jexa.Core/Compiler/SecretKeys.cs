using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Reports foreign keys that would show what is secret.</summary>
internal static class SecretKeys
{
    /// <summary>
    /// A foreign key holds the value of the column that it refers to. If that column is secret, the foreign key must be too.
    /// </summary>
    public static void Check(AppDefinition definition, IEnumerable<SiteRecord> kinds, RecordGraph graph, FindingList findings)
    {
        foreach (var kind in kinds)
        {
            foreach (var step in graph.Steps(kind))
            {
                foreach (var (own, theirs) in step.Key.Columns.Zip(step.Key.References))
                {
                    var (field, secret) = (
                        kind.Fields.First(one => one.Column.Name == own),
                        step.Other.Fields.First(one => one.Column.Name == theirs)
                    );
                    if (!secret.Secret || field.Secret)
                        continue;
                    var said = definition.Records.First(record => record.Name.Value == kind.Name);
                    var at = said.Fields.FirstOrDefault(one => one.Name.Value == field.Name)?.Name.At ?? said.Name.At;
                    findings.Add(
                        FindingCodes.SecretShown,
                        at,
                        $"{field.Name} of {kind.Name} holds what {secret.Name} of {step.Other.Name} holds, which is secret.",
                        $"Make it secret as well: fields: {{ {field.Name}: {{ secret: true }} }}",
                        found: field.Name,
                        expected: "a field that is secret"
                    );
                }
            }
        }
    }
}
