using System.Globalization;
using System.Text.Json;
using Jexa.Core.Files;
using Jexa.Service.Proof;
using Jexa.Service.State;

namespace Jexa.Service.Runs;

/// <summary>Keeps the latest reports in the state folder, each a file of its own.</summary>
internal sealed class ProofHistory(StateFolder state)
{
    private const int Most = 50;
    private const long MostBytes = 64 * 1024 * 1024;

    private readonly Lock _lock = new();
    private SortedDictionary<int, ProofSummary>? _known;

    private string Folder => Path.Combine(state.Path, "proofs");

    /// <summary>The number that the next report gets.</summary>
    public int Next
    {
        get
        {
            lock (_lock)
                return Known.Count == 0 ? 1 : Known.Keys.Last() + 1;
        }
    }

    /// <summary>The reports, the latest first.</summary>
    public IReadOnlyList<ProofSummary> All
    {
        get
        {
            lock (_lock)
                return [.. Known.Values.Reverse()];
        }
    }

    /// <summary>Keeps a report; the oldest ones make room.</summary>
    /// <exception cref="IOException">The disk is full, or the folder cannot be written.</exception>
    public void Keep(int number, ProofReport report)
    {
        lock (_lock)
        {
            var known = Known;
            Directory.CreateDirectory(Folder, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
            PlainFile.Replace(
                FileOf(number),
                JsonSerializer.SerializeToUtf8Bytes(report, JsonReport.Options),
                PlainFile.OwnerOnly
            );
            known[number] = ProofSummary.Of(number, report);
            foreach (var old in known.Keys.Take(Math.Max(0, known.Count - Most)).ToList())
            {
                File.Delete(FileOf(old));
                known.Remove(old);
            }
        }
    }

    /// <summary>A report, compared with the one before it of the same means and subject; null if it is not kept.</summary>
    public ProofReport? Read(int number)
    {
        lock (_lock)
        {
            if (!Known.TryGetValue(number, out var summary) || Load(number) is not { } report)
                return null;
            var before = Known
                .Values.Reverse()
                .FirstOrDefault(one => one.Number < number && one.Means == summary.Means && one.Subject == summary.Subject);
            return before is not null && Load(before.Number) is { } earlier
                ? JsonReport.Beside(report, earlier, forgives: false)
                : report;
        }
    }

    private SortedDictionary<int, ProofSummary> Known
    {
        get
        {
            if (_known is not null)
                return _known;
            _known = [];
            if (!Directory.Exists(Folder))
                return _known;
            foreach (var file in Directory.EnumerateFiles(Folder, "*.json"))
                if (
                    int.TryParse(Path.GetFileNameWithoutExtension(file), CultureInfo.InvariantCulture, out var number)
                    && Load(number) is { } report
                )
                    _known[number] = ProofSummary.Of(number, report);
            return _known;
        }
    }

    private string FileOf(int number) => Path.Combine(Folder, number.ToString("000000", CultureInfo.InvariantCulture) + ".json");

    private ProofReport? Load(int number)
    {
        try
        {
            return JsonReport.Read(PlainFile.ReadAllBytes(FileOf(number), MostBytes));
        }
        catch (Exception lost) when (lost is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
