using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>
/// Proves one link of a row set on each of its rows: its address is built, matched like that of a visit, and read back. The
/// records that it leads to are looked for, many at once.
/// </summary>
internal sealed class LinkProof
{
    /// <summary>Addresses whose answer is kept, so that the same one is proved once.</summary>
    private const int MostKept = 100_000;

    private readonly Site _site;
    private readonly RowSet _rows;
    private readonly Page _target;
    private readonly int[] _parameters;
    private readonly Func<Row, RowKey> _keyOf;
    private IReadOnlyList<TargetQueue> _queues = [];
    private readonly Dictionary<string, LinkVerdict> _kept = [];
    private readonly Dictionary<string, WaitingLink> _waiting = [];

    private LinkProof(Site site, RowSet rows, LinkPlan link, Page target, Func<Row, RowKey> keyOf)
    {
        (_site, _rows, Link, _target, _keyOf) = (site, rows, link, target, keyOf);
        _parameters = [.. link.ParameterNames.Select(name => target.Parameters.ToList().FindIndex(one => one.Name == name))];
    }

    public LinkPlan Link { get; }

    public Page Target => _target;

    /// <summary>How many records were looked for.</summary>
    public long Lookups => _queues.Sum(queue => queue.Lookups);

    /// <summary>The proof of a link; null for one to a page that is not there yet, or that another program draws.</summary>
    /// <param name="isShown">Whether the row set is what a page shows; else whether each record has an address is all that is
    /// asked.</param>
    public static LinkProof? Of(Site site, RowSet rows, LinkPlan link, Func<Row, RowKey> keyOf, bool isShown) =>
        site.Find(link.Page) is { Head.DrawnAt: null } target
            ? new LinkProof(site, rows, link, target, keyOf) { _queues = [.. Queues(rows, link, target, isShown)] }
            : null;

    private static IEnumerable<TargetQueue> Queues(RowSet rows, LinkPlan link, Page target, bool isShown)
    {
        if (target is ListPage list)
        {
            foreach (var parent in list.Parents.Where(parent => parent.Parameters.All(number => IsFilled(link, target, number))))
                yield return new TargetQueue(parent.Lookup, parent.Parameters);
        }
        else if (target is RecordPage page && !IsItself(rows, link, page) && (isShown || page.Head.Definition.Where.Count == 0))
        {
            yield return new TargetQueue(page.Lookup, [.. Enumerable.Range(0, page.Parameters.Count)]);
        }
    }

    private static bool IsFilled(LinkPlan link, Page target, int parameter) =>
        link.ParameterNames.Contains(target.Parameters[parameter].Name);

    /// <summary>
    /// Whether the link of each row leads to that row's own record, which then is there, once, and may be seen: the source keeps
    /// the key unique, letter by letter, and the page shows all records.
    /// </summary>
    private static bool IsItself(RowSet rows, LinkPlan link, RecordPage page) =>
        page.Record == rows.Record
        && ShowsAll(page)
        && TableOf(rows, link, page) == 0
        && page.Parameters.All(one => one.Key is not UuidKey && !one.Field.Column.FoldsCase)
        && page.Record.Table.IsUnique([.. page.Parameters.Select(one => one.Field.Column.Name)]);

    /// <summary>
    /// Whether a link is proved by the sweep of a record kind: it leads to the page of its row, or of a record that the row
    /// refers to and that may be seen, by that record's own fields; and the page shows all records of its kind.
    /// </summary>
    public static bool IsOfKind(Site site, RowSet rows, LinkPlan link) =>
        site.Find(link.Page) is RecordPage page
        && ShowsAll(page)
        && site.KindRows.Any(kind => kind.Rows.Record == page.Record)
        && TableOf(rows, link, page) switch
        {
            < 0 => false,
            0 => page.Record == rows.Record,
            var joined => rows.Query.Joins[joined - 1].Table == page.Record!.Rows
                && rows.Query.Joins[joined - 1].Conditions.Count == page.Record.Visible.Count,
        };

    private static bool ShowsAll(RecordPage page) =>
        page.Head.Definition.Where.Count == 0 && page.Parameters.All(one => one.Path is null);

    /// <summary>The table whose own fields fill the link, each the parameter that stands for it; -1 for none.</summary>
    private static int TableOf(RowSet rows, LinkPlan link, RecordPage page)
    {
        var columns = link.Fillers.Select(filler => rows.Query.Columns[filler.Ordinal].Column).ToList();
        return
            columns.Select(column => column.Name).SequenceEqual(page.Parameters.Select(one => one.Field.Column.Name))
            && columns.TrueForAll(column => column.Table == columns[0].Table)
            ? columns[0].Table
            : -1;
    }

    /// <summary>
    /// Whether the sweep of the row's record kind tells of each lost record: the link is filled from a foreign key to the records
    /// that its page shows all of.
    /// </summary>
    public bool IsOfReference =>
        _target is RecordPage page
        && ShowsAll(page)
        && _site.KindRows.FirstOrDefault(kind => kind.Rows.Record == _rows.Record) is { } kind
        && kind.References.Any(reference =>
            reference.Step.Other == page.Record
            && reference
                .Step.Key.Columns.Order()
                .SequenceEqual(
                    Link.Fillers.Select(filler => _rows.Query.Columns[filler.Ordinal].Column)
                        .Select(column => column.Table == 0 ? column.Name : "")
                        .Order()
                )
        );

    /// <summary>Proves the link of a row. Null if its record is yet to be looked for.</summary>
    /// <param name="scratch">Is emptied.</param>
    public LinkCase? Prove(Row row, Utf8Buffer scratch)
    {
        scratch.Truncate(0);
        if (!Link.TryWrite(row, scratch))
            return Refused(row, scratch) is var why and not LinkVerdict.None ? new LinkCase(why, _keyOf(row), null, 1) : null;
        var address = Encoding.ASCII.GetString(scratch.Written);
        if (_kept.TryGetValue(address, out var known))
            return known == LinkVerdict.Fine ? null : new LinkCase(known, _keyOf(row), address, 1);
        if (_waiting.TryGetValue(address, out var waiting))
        {
            _waiting[address] = waiting with { Times = waiting.Times + 1 };
            return null;
        }

        if (Read(row, address) is not { } values)
            return Keep(address, LinkVerdict.Astray, _keyOf(row), 1);
        if (_queues.Count == 0)
            return null;
        _waiting[address] = new WaitingLink(values, _keyOf(row), 1);
        return null;
    }

    /// <summary>Looks for the records of the links that were proved since the last time.</summary>
    /// <returns>The links that lead to none.</returns>
    /// <exception cref="Sources.SourceException">The source is away, too slow or refused.</exception>
    public async Task<IReadOnlyList<LinkCase>> LookAsync(CancellationToken cancellation)
    {
        var cases = new List<LinkCase>();
        if (_waiting.Count == 0)
            return cases;
        if (_kept.Count > MostKept)
            _kept.Clear();
        var bad = new Dictionary<string, LinkVerdict>();
        foreach (var queue in _queues)
        foreach (
            var (address, verdict) in await queue.LookAsync(
                [.. _waiting.Where(pair => !bad.ContainsKey(pair.Key)).Select(pair => (pair.Key, pair.Value.Values))],
                cancellation
            )
        )
            bad[address] = verdict;
        foreach (var (address, waiting) in _waiting)
            if (Keep(address, bad.GetValueOrDefault(address, LinkVerdict.Fine), waiting.Key, waiting.Times) is { } found)
                cases.Add(found);
        _waiting.Clear();
        return cases;
    }

    private LinkCase? Keep(string address, LinkVerdict verdict, RowKey key, long times)
    {
        _kept[address] = verdict;
        return verdict == LinkVerdict.Fine ? null : new LinkCase(verdict, key, address, times);
    }

    /// <summary>Why a row has no link.</summary>
    private LinkVerdict Refused(Row row, Utf8Buffer scratch)
    {
        if (Link.When?.Invoke(row) == false)
            return LinkVerdict.None;
        foreach (var filler in Link.Fillers)
            if (row[filler.Ordinal].IsNull || (row[filler.Ordinal] is { Kind: CellKind.Text, Length: 0 }))
                return LinkVerdict.Empty;
        return Link.IsTaken(row, scratch) ? LinkVerdict.Astray : LinkVerdict.Unwritable;
    }

    /// <summary>The values that the target page reads from an address; null if they are others, or it is not its page.</summary>
    private TypedValue[]? Read(Row row, string address)
    {
        var target = RequestTarget.Read(address, _site.Frame.Mount);
        var match = PageMatch.Of(_site, target, isSafe: true);
        if (match.Kind != MatchKind.Page || ParameterReader.Choose(match.Pages, target, out _).Name != _target.Name)
            return null;
        var values = new TypedValue[_target.Parameters.Count];
        Array.Fill(values, TypedValue.Empty.Value);
        for (var i = 0; i < _parameters.Length; i++)
        {
            var parameter = _target.Parameters[_parameters[i]];
            var reading = ParameterReader.Value(ParameterReader.Read(target, parameter), parameter.Key);
            if (
                reading is not { Value: { } value, IsCanonical: true }
                || parameter.Key.Compare(row, Link.Fillers[i].Ordinal, value) != KeyMatch.Exact
            )
                return null;
            values[_parameters[i]] = value;
        }

        return values;
    }

    private readonly record struct WaitingLink(TypedValue[] Values, RowKey Key, long Times);
}
