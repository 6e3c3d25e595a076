using System.Runtime.CompilerServices;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Lists;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Proof;

/// <summary>
/// Reads all records of an app, in windows in the order of their keys, and proves each link, reference and value. It changes
/// nothing, keeps one window in memory, and can go on where it was ended.
/// </summary>
/// <param name="hasFile">Whether a folder has a file of this name that can be shown.</param>
public sealed class Sweep(
    Site site,
    AppDefinition definition,
    SweepLimits limits,
    Func<FilePlan, string, bool> hasFile,
    TimeProvider clock
)
{
    private readonly FaultPlaces _places = new(definition);
    private readonly TextVisits _visits = new(site, clock);
    private readonly FaultList _faults = new(limits.Examples);
    private readonly RecordSample _sample = new(limits.Fetch);
    private readonly Dictionary<string, long> _done = [];

    /// <summary>The rows of parts that were not read to their end.</summary>
    private readonly Dictionary<string, long> _begun = [];
    private readonly List<(string Part, string Why, bool IsChosen)> _notRead = [];
    private readonly RowBlock _rows = new();
    private readonly ConditionalWeakTable<SweepPart, ListWindows> _windows = [];
    private long _started;
    private long _read;
    private long _links;
    private long _lookups;

    /// <summary>The parts that are read.</summary>
    public IReadOnlyList<SweepPart> Parts { get; } = SweepPart.Of(site, limits.Only);

    /// <summary>About how many rows there are to read. Those of a source that is away are none: they are not read.</summary>
    public async Task<long> CountAsync(CancellationToken cancellation)
    {
        long all = 0;
        var known = new Dictionary<SiteRecord, long>();
        foreach (var record in Parts.Select(part => part.Rows.Record))
        {
            if (!known.TryGetValue(record, out var count))
                known[record] = count = record.Table.AboutRows ?? await CountAsync(record, cancellation);
            all += Math.Min(count, limits.Rows ?? long.MaxValue);
        }

        return all;
    }

    /// <summary>Reads everything.</summary>
    /// <param name="from">Where an earlier sweep was ended.</param>
    /// <param name="mark">Told after each window how far it has come.</param>
    public async Task<SweepResult> RunAsync(
        SweepMark from,
        Action<SweepProgress> progress,
        Action<SweepMark> mark,
        CancellationToken cancellation
    )
    {
        _started = clock.GetTimestamp();
        foreach (var fault in from.Faults)
            _faults.Put(fault);
        foreach (var (part, rows) in from.Done)
            _done[part] = rows;
        _read = _done.Values.Sum() + from.Rows;
        if (from == SweepMark.Start && limits.Only.Count == 0)
            await TextsAsync(cancellation);
        if (from == SweepMark.Start)
            await new EmptyProof(site, _places, _faults).ProveAsync(limits.Only, () => Over is not null, cancellation);
        if (limits.Only.Count == 0)
        {
            _notRead.AddRange(site.Waiting.Select(page => (SweepPart.OfPage + page, "its source is away", false)));
            _notRead.AddRange(site.Designed.Select(page => (SweepPart.OfPage + page.Name, "its table is not there yet", true)));
        }

        foreach (var part in Parts.Where(part => !_done.ContainsKey(part.Name)))
        {
            if (Over is { } why)
                _notRead.Add((part.Name, why, false));
            else
                await PartAsync(part, part.Name == from.Part ? from : SweepMark.Start, progress, mark, cancellation);
        }

        return new SweepResult(
            _faults.All,
            [.. _done.Concat(_begun).Select(pair => (pair.Key, pair.Value))],
            _notRead,
            _links,
            _lookups
        )
        {
            Sample = _sample.Chosen,
        };
    }

    /// <summary>Ends it after the window that is being read; the result says so.</summary>
    public CancellationToken Stop { get; init; }

    private string? Over =>
        Stop.IsCancellationRequested ? "it was stopped"
        : limits.Within is { } most && clock.GetElapsedTime(_started) >= most ? "the time was over"
        : null;

    private static async Task<long> CountAsync(SiteRecord record, CancellationToken cancellation)
    {
        try
        {
            var rows = new RowBlock();
            rows.Reset(1);
            await record.Source.Prepare(new CountQuery(record.Seen, [], [], int.MaxValue)).RunAsync([], rows, cancellation);
            return rows[0][0].Integer;
        }
        catch (SourceException)
        {
            return 0;
        }
    }

    /// <summary>Visits the addresses in the texts of the app file.</summary>
    private async Task TextsAsync(CancellationToken cancellation)
    {
        foreach (var (text, source) in TextVisits.TextsOf(site, definition))
        foreach (var target in TextLinks.Of(source).Where(IsPath))
            if (await _visits.FailsAsync(target, cancellation) is { } outcome)
                _faults.Add(
                    ProofCodes.TextLinkToNothing,
                    $"text {text.At.Line}",
                    () =>
                        new Fault(
                            ProofCodes.TextLinkToNothing,
                            text.At,
                            $"text {text.At.Line}",
                            "The text has links to addresses that show nothing.",
                            "Correct the links.",
                            0,
                            [],
                            null
                        ),
                    new FaultExample("", target, outcome)
                );
    }

    private static bool IsPath(string target) => target.StartsWith('/') && !target.StartsWith("//", StringComparison.Ordinal);

    private async Task PartAsync(
        SweepPart part,
        SweepMark from,
        Action<SweepProgress> progress,
        Action<SweepMark> mark,
        CancellationToken cancellation
    )
    {
        var sweep = new PartSweep(site, part, _places, _faults, _sample, hasFile);
        var at = new PartPlace(from.Behind, from.Rows);
        try
        {
            while (at.Why is null)
            {
                progress(new SweepProgress(part.Name, _read));
                if (await WindowAsync(part, sweep, at, cancellation) is not { } next)
                    break;
                at = next;
                mark(new SweepMark(_done, part.Name, at.Rows, at.Behind, _faults.All));
            }

            await sweep.ConfirmAsync(
                new PartSweep(site, part, _places, new FaultList(1), RecordSample.None, hasFile),
                _visits,
                cancellation
            );
        }
        catch (SourceException trouble)
        {
            _notRead.Add((part.Name, trouble.Message, false));
            _begun[part.Name] = at.Rows;
            mark(new SweepMark(_done, part.Name, at.Rows, at.Behind, _faults.All));
            return;
        }
        finally
        {
            (_links, _lookups) = (_links + sweep.Seen.Links, _lookups + sweep.Seen.Lookups);
        }

        // What was not read to its end is read on by the next sweep.
        if (at.Why is { } why)
        {
            _notRead.Add((part.Name, why, at.Rows >= limits.Rows));
            _begun[part.Name] = at.Rows;
            return;
        }

        _done[part.Name] = at.Rows;
        mark(new SweepMark(_done, null, 0, null, _faults.All));
    }

    /// <summary>Reads and proves the next window. Gives the place behind it; null if there are no more rows.</summary>
    private async Task<PartPlace?> WindowAsync(SweepPart part, PartSweep sweep, PartPlace at, CancellationToken cancellation)
    {
        var started = clock.GetTimestamp();
        if (await ReadAsync(part, at.Behind, cancellation) == 0)
            return null;
        await sweep.ProveAsync(_rows, _visits, cancellation);
        _read += _rows.Count;
        var (behind, read) = (BehindOf(part), at.Rows + _rows.Count);
        await RestAsync(clock.GetElapsedTime(started), cancellation);
        return new PartPlace(
            behind,
            read,
            behind is null
                ? $"the key of row {read:N0} is text that cannot be sent back to the source"
                : Over ?? (read >= limits.Rows ? $"only {limits.Rows:N0} rows were asked for" : null)
        );
    }

    /// <summary>Reads the rows behind a place. Gives their number.</summary>
    private async Task<int> ReadAsync(SweepPart part, IReadOnlyList<TypedValue>? behind, CancellationToken cancellation)
    {
        var windows = _windows.GetValue(part, one => new ListWindows(
            one.Rows.Record.Source,
            one.Rows.Query with
            {
                Limit = limits.Window,
            },
            one.Rows.Key,
            one.Rows.Arguments.Count
        ));
        _rows.Reset(windows.Width);
        var queries = behind is null
            ? windows.End(part.Rows.Arguments, backwards: false)
            : windows.Behind(part.Rows.Arguments, behind);
        foreach (var query in queries)
        {
            await query.Query.RunAsync(query.Arguments, _rows, cancellation);
            if (_rows.Count >= limits.Window)
                break;
        }

        return _rows.Count;
    }

    /// <summary>The key of the last row of the window; null if it cannot be sent back.</summary>
    private IReadOnlyList<TypedValue>? BehindOf(SweepPart part) =>
        CellValues.Of(_rows[_rows.Count - 1], [.. part.Rows.Key.Select(key => key.Ordinal)]);

    /// <summary>Waits as long as it takes to stay below the rate.</summary>
    private Task RestAsync(TimeSpan took, CancellationToken cancellation)
    {
        if (limits.RowsPerSecond is not { } rate)
            return Task.CompletedTask;
        var rest = TimeSpan.FromSeconds(_rows.Count / (double)rate) - took;
        return rest > TimeSpan.Zero ? Task.Delay(rest, clock, cancellation) : Task.CompletedTask;
    }

    /// <param name="Behind">The key of the last row that was read; null at the beginning.</param>
    /// <param name="Why">Why it is not read on; null if it is.</param>
    private sealed record PartPlace(IReadOnlyList<TypedValue>? Behind, long Rows, string? Why = null);
}
