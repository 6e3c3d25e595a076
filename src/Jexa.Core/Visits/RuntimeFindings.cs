using System.Collections.Concurrent;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Visits;

/// <summary>What visits showed to be wrong with the data: one finding a page and code, the first of its kind.</summary>
public sealed class RuntimeFindings
{
    private readonly ConcurrentDictionary<(string Code, string Page), Finding> _findings = [];

    public IReadOnlyList<Finding> All => [.. _findings.Values.OrderBy(finding => finding.At.Line).ThenBy(finding => finding.Code.Id)];

    /// <summary>Forgets everything: another site is served now.</summary>
    public void Clear() => _findings.Clear();

    public void AddAmbiguous(Page page, string id) => Add(FindingCodes.AmbiguousRecord, page,
        $"Two visible {page.Record!.Many} answer to the ID “{(id.Length <= 80 ? id : id[..80] + "…")}” on the page “{page.Name}”.",
        $"Make {string.Join(" with ", page.Parameters.Select(p => p.Field.Name))} unique in {page.Record!.Table.Name}, or choose another key.");

    public void AddUnlinked(Page page) => Add(FindingCodes.KeyOfOtherClass, page,
        $"The list “{page.Name}” has {page.Record!.Many} whose key is of another type than the key's column, so they have no link.",
        $"Look in {page.Record!.Table.Name} for rows whose {string.Join(" or ", page.Record!.Key.Select(field => field.Name))} was stored as another type.");

    public void AddSource(Page page, string message) => Add(FindingCodes.SourceAnswers, page, message, "Look at what the source answers, and at how the app file says to call it.");

    private void Add(FindingCode code, Page page, string message, string remedy) =>
        _findings.TryAdd((code.Id, page.Name), new Finding(code, page.Head.Definition.Path.At, message, null, null, null, remedy));
}
