using System.Collections.Concurrent;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>What visits showed to be wrong with the data: the first finding for each page and code.</summary>
public sealed class RuntimeFindings
{
    private readonly ConcurrentDictionary<(string Code, string Page), Finding> _findings = [];

    /// <summary>The findings so far, in order.</summary>
    public IReadOnlyList<Finding> All =>
        [.. _findings.Values.OrderBy(finding => finding.At.Line).ThenBy(finding => finding.Code.Id)];

    /// <summary>Forgets everything: another site is served now.</summary>
    public void Clear() => _findings.Clear();

    /// <summary>Adds that two records answer to one ID.</summary>
    public void AddAmbiguous(Page page, string id) =>
        Add(
            FindingCodes.AmbiguousRecord,
            page,
            $"Two visible {page.Record!.Many} answer to the ID “{Cut(id)}” on the page “{page.Name}”.",
            $"Make {string.Join(" with ", page.Parameters.Select(p => p.Field.Name))} unique in "
                + $"{page.Record!.Table.Name}, or choose another key."
        );

    /// <summary>Adds that a record's key cannot stand in an address.</summary>
    public void AddUnlinked(Page page) =>
        Add(
            FindingCodes.KeyOfOtherClass,
            page,
            $"The list “{page.Name}” has {page.Record!.Many} whose key is of another type than the key's "
                + "column, so they have no link.",
            $"Look in {page.Record!.Table.Name} for rows whose "
                + $"{string.Join(" or ", page.Record!.Key.Select(field => field.Name))} was stored as another type."
        );

    /// <summary>Adds that a source answered something that cannot be used.</summary>
    public void AddSource(Page page, string message) =>
        Add(
            FindingCodes.SourceAnswers,
            page,
            message,
            "Look at what the source answers, and at how the app file says to call it."
        );

    /// <summary>Notes pictures in an answer whose place the app file does not say.</summary>
    public void NotePictures(Page page, PageView? view)
    {
        var (columns, rows) = view switch
        {
            DetailView detail => (detail.Shape.Fields, [detail.Record]),
            ListView list => (list.Shape.Columns, Enumerable.Range(0, list.Rows.Count).Select(i => list.Rows[i])),
            _ => ((IReadOnlyList<ViewColumn>)[], (IEnumerable<Row>)[]),
        };
        foreach (var column in columns)
        {
            if (column.Picture is not { } picture)
                continue;
            foreach (var row in rows)
            {
                if (!picture.LacksPlace(row))
                    continue;
                Add(
                    FindingCodes.PictureWithoutPlace,
                    page,
                    $"{column.Name} holds the name of a file, “{Cut(picture.NameOf(row))}”, and the app file does "
                        + "not say in which folder it is.",
                    $"Add under: FOLDER to the field: fields: {{ {column.Name}: {{ as: image, under: FOLDER }} }}; "
                        + "or base: ADDRESS."
                );
                return;
            }
        }
    }

    private static string Cut(string text) => text.Length <= 80 ? text : text[..80] + "…";

    private void Add(FindingCode code, Page page, string message, string remedy) =>
        _findings.TryAdd(
            (code.Id, page.Name),
            new Finding(code, page.Head.Definition.Path.At, message, null, null, null, remedy)
        );
}
