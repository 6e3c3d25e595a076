using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jexa.Core.Definitions;
using Jexa.Core.Files;
using Jexa.Core.Proof;
using Jexa.Core.Values;
using Jexa.Service.State;

namespace Jexa.Service.Proof;

/// <summary>
/// Keeps how far a sweep of an app file has come, so that another one can go on. As long as it is open, no other sweep of that
/// file runs.
/// </summary>
public sealed class SweepMarkFile : IDisposable
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    private readonly string _file;
    private readonly string _digest;
    private readonly TimeProvider _clock;
    private readonly FileStream _turn;
    private long _saved;

    private SweepMarkFile(string file, string digest, TimeProvider clock, FileStream turn) =>
        (_file, _digest, _clock, _turn) = (file, digest, clock, turn);

    /// <summary>Opens the file for a sweep.</summary>
    /// <param name="folder">Its folder; that of the user's state if it is null.</param>
    /// <param name="settings">What else must be the same for a sweep to go on, such as the limits.</param>
    /// <exception cref="IOException">Another sweep of this app file is running, or the folder cannot be written.</exception>
    public static SweepMarkFile Open(string? folder, string appFile, ReadOnlySpan<byte> app, string settings, TimeProvider clock)
    {
        var path = Path.GetFullPath(appFile);
        var name = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(path)))[..16];
        folder = Path.GetFullPath(folder ?? Path.Combine(StateFolder.Home(), "sweeps"));
        Directory.CreateDirectory(folder, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
        var digest = Convert.ToHexStringLower(SHA256.HashData([.. app, 0, .. Encoding.UTF8.GetBytes(settings)]));
        var file = Path.Combine(folder, $"{name}.json");
        FileStream turn;
        try
        {
            turn = StateTurn.Take(Path.Combine(folder, $"{name}.turn"));
        }
        catch (IOException held)
        {
            throw new IOException($"Another sweep of {appFile} is running. Wait for it, or end it.", held);
        }

        return new SweepMarkFile(file, digest, clock, turn);
    }

    /// <summary>How far the last sweep came; null if there is nothing to go on with.</summary>
    public SweepMark? Read()
    {
        try
        {
            var kept = JsonSerializer.Deserialize<KeptMark>(PlainFile.ReadAllBytes(_file), JsonReport.Options);
            return kept is null || kept.Digest != _digest ? null : kept.ToMark();
        }
        catch (Exception lost) when (lost is IOException or JsonException or UnauthorizedAccessException or FormatException)
        {
            return null;
        }
    }

    /// <summary>Keeps a mark, unless one was kept a moment ago.</summary>
    public void Save(SweepMark mark)
    {
        var now = _clock.GetTimestamp();
        if (_saved != 0 && mark.Part is not null && _clock.GetElapsedTime(_saved, now) < Pause)
            return;
        _saved = now;
        PlainFile.Replace(
            _file,
            JsonSerializer.SerializeToUtf8Bytes(KeptMark.Of(mark, _digest), JsonReport.Options),
            PlainFile.OwnerOnly
        );
    }

    /// <summary>Forgets the mark: the sweep has come to its end.</summary>
    public void Remove() => File.Delete(_file);

    public void Dispose() => _turn.Dispose();

    private sealed record KeptMark(
        string Digest,
        IReadOnlyDictionary<string, long> Done,
        string? Part,
        long Rows,
        IReadOnlyList<KeptValue>? Behind,
        IReadOnlyList<KeptFault> Faults
    )
    {
        public static KeptMark Of(SweepMark mark, string digest) =>
            new(
                digest,
                mark.Done,
                mark.Part,
                mark.Rows,
                mark.Behind?.Select(KeptValue.Of).ToList(),
                [
                    .. mark.Faults.Select(fault => new KeptFault(
                        fault.Code.Id,
                        fault.At.File,
                        fault.At.Line,
                        fault.At.Column,
                        fault.About,
                        fault.Message,
                        fault.Remedy,
                        fault.Count,
                        fault.Examples,
                        fault.Query
                    )),
                ]
            );

        public SweepMark ToMark() =>
            new(
                Done,
                Part,
                Rows,
                Behind?.Select(value => value.ToValue()).ToList(),
                [
                    .. Faults.Select(fault => new Fault(
                        FindingCodes.All.First(code => code.Id == fault.Code),
                        new Place(fault.File, fault.Line, fault.Column),
                        fault.About,
                        fault.Message,
                        fault.Remedy,
                        fault.Count,
                        fault.Examples,
                        fault.Query
                    )),
                ]
            );
    }

    private sealed record KeptFault(
        string Code,
        string File,
        int Line,
        int Column,
        string About,
        string Message,
        string Remedy,
        long Count,
        IReadOnlyList<FaultExample> Examples,
        string? Query
    );

    /// <summary>A stored value of a key: its kind, and its text.</summary>
    private sealed record KeptValue(string Kind, string Text)
    {
        public static KeptValue Of(TypedValue value) =>
            value switch
            {
                TypedValue.Whole whole => new("whole", whole.Value.ToString(CultureInfo.InvariantCulture)),
                TypedValue.Real real => new("real", real.Value.ToString("R", CultureInfo.InvariantCulture)),
                TypedValue.Bytes bytes => new("bytes", Convert.ToHexStringLower(bytes.Value)),
                TypedValue.Empty => new("empty", ""),
                _ => new("text", value.ToString()!),
            };

        public TypedValue ToValue() =>
            Kind switch
            {
                "whole" => new TypedValue.Whole(long.Parse(Text, CultureInfo.InvariantCulture)),
                "real" => new TypedValue.Real(double.Parse(Text, CultureInfo.InvariantCulture)),
                "bytes" => new TypedValue.Bytes(Convert.FromHexString(Text)),
                "empty" => TypedValue.Empty.Value,
                "text" => new TypedValue.Text(Text),
                _ => throw new FormatException($"There is no kind of value “{Kind}”."),
            };
    }
}
