using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Serilog;

namespace Jexa.Service.State;

/// <summary>
/// Makes log and sources agree again after a process ended in between: the source's own note decides. Removes notes that are no
/// longer needed.
/// </summary>
public sealed class ChangeKeeper : IAsyncDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan NoteAge = TimeSpan.FromHours(48);
    private static readonly TimeSpan BetweenSweeps = TimeSpan.FromHours(1);
    private const int NotesAtOnce = 500;
    private const int ChangesAtOnce = 1000;

    private readonly ChangeStore _store;
    private readonly TimeSpan? _keep;
    private readonly TimeProvider _clock;
    private readonly Func<Site> _site;
    private readonly ILogger _logger;
    private readonly CancellationTokenSource _ending = new();
    private readonly Task _keeping;
    private string? _trouble;
    private long? _sweptAt;

    /// <param name="keep">For how long changes are kept; null for ever.</param>
    public ChangeKeeper(ChangeStore store, Func<Site> site, TimeSpan? keep, TimeProvider clock, ILogger logger)
    {
        (_store, _site, _keep, _clock, _logger) = (store, site, keep, clock, logger);
        _keeping = Task.Run(KeepAsync);
    }

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        await _keeping;
        _ending.Dispose();
    }

    private async Task KeepAsync()
    {
        while (!_ending.IsCancellationRequested)
        {
            try
            {
                _store.Look();
                foreach (var intent in _store.Lapsed())
                    await DecideAsync(intent);
                await ForgetAsync();
                if (_keep is { } age)
                    _store.Trim(age, ChangesAtOnce);
                if (_sweptAt is not { } swept || _clock.GetElapsedTime(swept) > BetweenSweeps)
                    await SweepAsync();
                _trouble = null;
            }
            catch (Exception trouble) when (trouble is SourceException or OperationCanceledException or RefusedException)
            {
                // It is tried again in the next round. Until then the change counts as intended.
                if (!_ending.IsCancellationRequested)
                    Tell(trouble.Message);
            }
            catch (Exception unforeseen)
            {
                Tell(unforeseen.Message);
            }

            try
            {
                await Task.Delay(Pause, _clock, _ending.Token);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    /// <summary>Reports a problem once, not in every round.</summary>
    private void Tell(string trouble)
    {
        if (trouble == _trouble)
            return;
        _trouble = trouble;
        if (_store.IsLost)
            _logger.Error("The change log is lost: {Reason}", trouble);
        else
            _logger.Warning("The change log cannot be kept at this moment: {Reason}", trouble);
    }

    /// <summary>Removes notes of changes that were forbidden and never made, two days after they were first seen.</summary>
    private async Task SweepAsync()
    {
        foreach (var plan in _site().Changes.Values.DistinctBy(plan => plan.Record.SourceName))
        {
            if (!_store.Knows(plan.Record.SourceName))
                continue;
            await using var session = await plan.Record.Source.BeginWriteAsync(_ending.Token);
            if (!session.KeepsNotes)
                continue;
            var strays = new List<string>();
            while (
                strays.Count < NotesAtOnce
                && await session.NextStrayNoteAsync(strays.LastOrDefault() ?? "", _ending.Token) is { } stray
            )
                strays.Add(stray);
            var old = _store.SeeStrayNotes(plan.Record.SourceName, strays, NoteAge);
            if (old.Count == 0)
                continue;
            await session.ForgetNotesAsync(old, CancellationToken.None);
            await session.CommitAsync();
            _store.ForgotStrayNotes(plan.Record.SourceName, old);
        }

        _sweptAt = _clock.GetTimestamp();
    }

    private async Task DecideAsync(LoggedChange intent)
    {
        var token = intent.What.Token;
        if (!intent.What.IsNoted)
        {
            _store.GiveUp(token);
            _logger.Warning("Change {Number} is undetermined: its process ended, and its source keeps no note", intent.Number);
            return;
        }

        if (SourceOf(intent.What.Source) is not { } source)
            return;
        await using var session = await source.BeginWriteAsync(_ending.Token);
        if (!session.KeepsNotes)
            return;
        var (noted, key) = await session.FindNoteAsync(token, CancellationToken.None);
        if (!noted)
        {
            // If its process still lives, it cannot make the change any more. If it was just faster, the change is checked again
            // later.
            if (!await session.NoteAsync(token, null, CancellationToken.None))
                return;
            await session.CommitAsync();
        }

        if (noted && key is not null)
            _store.Confirm(token);
        else
            _store.Drop(token);
        _logger.Warning(
            "Change {Number} was left open by a process that ended; it {Decision}",
            intent.Number,
            noted && key is not null ? "was made" : "was not made"
        );
    }

    private async Task ForgetAsync()
    {
        foreach (var group in _store.Forgettable(NoteAge, NotesAtOnce).GroupBy(note => note.Record))
        {
            if (_site().Changes.GetValueOrDefault(group.Key) is not { } plan)
                continue;
            string[] tokens = [.. group.Select(note => note.Token)];
            await using var session = await plan.Record.Source.BeginWriteAsync(_ending.Token);
            await session.ForgetNotesAsync(tokens, CancellationToken.None);
            await session.CommitAsync();
            _store.Forgot(tokens);
        }
    }

    private ISource? SourceOf(string name) =>
        _site().Changes.Values.FirstOrDefault(plan => plan.Record.SourceName == name)?.Record.Source;
}
