using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Media;
using Serilog;

namespace Jexa.Service.Uploads;

/// <summary>
/// Settles what waits in the folders of uploads after a process ended in between: a file that a record names is put in its place;
/// one that no record names is removed when its form can no longer be sent.
/// </summary>
internal sealed class UploadKeeper : IAsyncDisposable
{
    private static readonly TimeSpan BetweenRounds = TimeSpan.FromHours(1);

    /// <summary>A file whose last byte came longer ago will not be finished.</summary>
    private static readonly TimeSpan PartialAge = TimeSpan.FromHours(1);

    private readonly SiteHost _host;
    private readonly ILogger _logger;
    private readonly CancellationTokenSource _ending = new();
    private readonly Task _keeping;

    public UploadKeeper(SiteHost host, ILogger logger)
    {
        (_host, _logger) = (host, logger);
        _keeping = Task.Run(KeepAsync);
    }

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        await _keeping;
        _ending.Dispose();
    }

    /// <summary>What becomes of the files of a form, when its visit is over.</summary>
    public static void Settle(FormPlan form, SentForm sent, Answer answer)
    {
        foreach (var entry in form.Entries)
        {
            if (entry.Field.Upload is not { } plan)
                continue;
            var file = sent.Files.GetValueOrDefault(entry.Name);
            var name = file is { Name.Length: > 0 } ? file.Name : sent.One(entry.Name) ?? "";
            try
            {
                if (name.Length > 0 && IncomingFiles.Find(plan.Folder, name) is { } waiting)
                    Settle(plan, name, waiting, file is not null, answer);
            }
            catch (Exception unplaced) when (unplaced is IOException or UnauthorizedAccessException)
            {
                // It is shown from where it waits, and put in its place later.
            }
        }
    }

    private static void Settle(UploadPlan plan, string name, string waiting, bool isNew, Answer answer)
    {
        if (answer.Outcome is Outcome.Saved)
            IncomingFiles.Place(plan.Folder, name);
        else if (answer.View is FormView)
            File.SetLastWriteTimeUtc(waiting, DateTime.UtcNow);
        else if (isNew && answer.Outcome is not (Outcome.Unavailable or Outcome.Failed))
            IncomingFiles.Remove(waiting);
    }

    private async Task KeepAsync()
    {
        while (!_ending.IsCancellationRequested)
        {
            foreach (var lookup in _host.Site.Uploads)
                await KeepAsync(lookup);
            try
            {
                await Task.Delay(BetweenRounds, _host.Clock, _ending.Token);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    private async Task KeepAsync(UploadLookup lookup)
    {
        try
        {
            var folder = new DirectoryInfo(IncomingFiles.FolderOf(lookup.Plan.Folder));
            if (!folder.Exists)
                return;
            foreach (var file in folder.GetFiles())
            {
                var age = DateTime.UtcNow - file.LastWriteTimeUtc;
                if (file.Name.EndsWith(IncomingFiles.Partial, StringComparison.Ordinal))
                {
                    if (age > PartialAge)
                        file.Delete();
                }
                else if (await IsNamedAsync(lookup, file.Name))
                    IncomingFiles.Place(lookup.Plan.Folder, file.Name);
                else if (age > FormContract.Lifetime)
                    file.Delete();
            }
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException or SourceException)
        {
            _logger.Warning(
                "Files that were sent for {Record} cannot be looked after now: {Reason}",
                lookup.Record.Name,
                trouble.Message
            );
        }
        catch (OperationCanceledException) when (_ending.IsCancellationRequested)
        {
            // The service ends; the next one goes on.
        }
    }

    /// <summary>Whether any field that uses the folder names the file.</summary>
    private async ValueTask<bool> IsNamedAsync(UploadLookup lookup, string name)
    {
        foreach (var other in _host.Site.Uploads.Where(one => one.Plan.Folder == lookup.Plan.Folder))
            if (await _host.Runner.IsNamedAsync(other, name, _ending.Token))
                return true;
        return false;
    }
}
