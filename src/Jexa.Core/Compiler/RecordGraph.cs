using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>How the record kinds of an app are connected by foreign keys.</summary>
public sealed class RecordGraph(IReadOnlyList<SiteRecord> records)
{
    /// <summary>All record kinds of the app.</summary>
    public IReadOnlyList<SiteRecord> Kinds => records;

    /// <summary>The longest path to a field, in foreign keys.</summary>
    public const int MaxSteps = 4;

    /// <summary>The record kind that a foreign key refers to; null if the app has none for that table.</summary>
    public SiteRecord? Other(SiteRecord from, ForeignKeySchema key) =>
        records.FirstOrDefault(record =>
            record.Source == from.Source
            && record.Table.Name == key.Table
            && record.QueryParameters.All(p => p.Default is not null)
        );

    /// <summary>A record kind for a table of another record's source, whatever its query's parameters; null for none.</summary>
    public SiteRecord? RecordOver(SiteRecord from, string table) =>
        records.FirstOrDefault(record => record.Source == from.Source && record.Query is null && record.Table.Name == table);

    /// <summary>The foreign keys from a record to another one, each to at most one row.</summary>
    public IEnumerable<FieldStep> Steps(SiteRecord from) =>
        from
            .References.Select(key => (key, other: Other(from, key)))
            .Where(pair => pair.other is not null && pair.other.IsUnique([.. pair.key.References]))
            .Select(pair => new FieldStep(pair.key, pair.other!));

    /// <summary>The field at the end of a path; null, and reported, if it does not exist or is secret.</summary>
    internal FieldPath? Find(Written name, SiteRecord from, string asWhat, FindingList findings)
    {
        if (from.Find(name.Value) is not null || !name.Value.Contains('.'))
            return FieldUse.Find(name, from.Fields, asWhat, findings) is { } own ? FieldPath.Own(own) : null;

        var words = name.Value.Split('.');
        var steps = new List<FieldStep>();
        var at = from;
        var offset = 0;
        foreach (var word in words[..^1])
        {
            var ways = Ways(at, word).ToList();
            if (ways.Count != 1 || steps.Count == MaxSteps)
            {
                ReportStep(name, new Written(word, name.Of(offset)), at, ways, steps.Count, findings);
                return null;
            }

            steps.Add(ways[0]);
            at = ways[0].Other;
            offset += word.Length + 1;
        }

        var last = new Written(words[^1], name.Of(offset)) { IsOneRun = name.IsOneRun };
        return FieldUse.Find(last, at.Fields, asWhat, findings) is { } field ? new FieldPath(name.Value, steps, field) : null;
    }

    /// <summary>The only foreign key of a record that a word can mean; null for none or several.</summary>
    public FieldStep? FindStep(SiteRecord from, string word) => Ways(from, word).ToList() is [var only] ? only : null;

    /// <summary>
    /// The foreign keys that a word can mean: by their field, with or without its ending, or by the record they refer to.
    /// </summary>
    private IEnumerable<FieldStep> Ways(SiteRecord from, string word)
    {
        var steps = Steps(from).ToList();
        var exact = steps.Where(step => step.Key.Columns is [var only] && only == word).ToList();
        if (exact.Count > 0)
            return exact;
        var near = steps.Where(step => step.Key.Columns is [var only] && (only == word + "_id" || only == word + "Id")).ToList();
        return near.Count > 0 ? near : steps.Where(step => step.Other.Name == word);
    }

    private void ReportStep(Written name, Written part, SiteRecord at, List<FieldStep> ways, int taken, FindingList findings)
    {
        var (word, place) = (part.Value, part.At);
        if (taken == MaxSteps)
            findings.Add(
                FindingCodes.NoSuchStep,
                place,
                $"“{name}” goes over more than {MaxSteps} foreign keys.",
                "Show the far record on a page of its own.",
                found: name.Value,
                expected: $"at most {MaxSteps} steps"
            );
        else if (ways.Count > 1)
            findings.Add(
                FindingCodes.NoSuchStep,
                place,
                $"“{word}” could be {string.Join(" or ", ways.Select(way => string.Join(" with ", way.Key.Columns)))} "
                    + $"of {at.Name}.",
                "Name the field that holds the foreign key.",
                found: word,
                expected: string.Join(", ", ways.Select(way => way.Key.Columns[0]))
            );
        else
            findings.Add(
                new Finding(
                    Code: FindingCodes.NoSuchStep,
                    At: place,
                    Message: $"No foreign key of {at.Name} is called “{word}”, or the app has no record over the table "
                        + "it leads to.",
                    Remedy: "Name a field that refers to another record of this app file.",
                    Found: word,
                    Expected: string.Join(", ", Steps(at).Select(step => step.Key.Columns[0])) is { Length: > 0 } words
                        ? words
                        : "nothing: it refers to no record of this app",
                    Nearest: Nearest.To(word, Steps(at).Select(step => step.Key.Columns[0]))
                )
            );
    }
}
