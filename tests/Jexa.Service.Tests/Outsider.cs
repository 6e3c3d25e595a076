using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;

namespace Jexa.Service.Tests;

/// <summary>
/// Somebody else who uses the same SQLite file: another process, with the shell of Debian's package, which is another version of
/// the library. Between them there is nothing but the locks on the file.
/// </summary>
internal sealed class Outsider(string file)
{
    private readonly string _copies = Directory.CreateTempSubdirectory("jexa-outside-").FullName;
    private int _rows;

    /// <summary>How often each thing was done, and done in vain because the file was busy.</summary>
    public ConcurrentDictionary<string, int> Done { get; } = new();

    /// <summary>Rows that the outsider has put into the table <c>outside</c>.</summary>
    public int Rows => _rows;

    /// <summary>Does one thing after another until it is told to end.</summary>
    /// <param name="mode">Besides: changes the journal mode back and forth.</param>
    public async Task MeddleAsync(bool mode, CancellationToken ending)
    {
        var copy = Path.Combine(_copies, "copy.db");
        for (var round = 0; !ending.IsCancellationRequested; round++)
        {
            await DoAsync("read", "SELECT count(*) FROM thing");
            if (await DoAsync("write", "INSERT INTO outside VALUES ('x')"))
                _rows++;
            await DoAsync("backup", $".backup '{copy}'");
            await DoAsync("vacuum into", $"VACUUM INTO '{copy}.{round}'");
            await RunAsync("cp", file, copy);
            await DoAsync("checkpoint", "PRAGMA wal_checkpoint(TRUNCATE)");
            if (mode)
                await DoAsync("mode", $"PRAGMA journal_mode={(round % 2 == 0 ? "wal" : "delete")}");
            foreach (var old in Directory.GetFiles(_copies))
                File.Delete(old);
        }

        Directory.Delete(_copies, recursive: true);
    }

    public async Task<bool> DoAsync(string what, string command)
    {
        var done = (await RunAsync("sqlite3", "-cmd", ".timeout 4000", file, command)).ExitCode == 0;
        Done.AddOrUpdate(done ? what : $"{what} in vain", 1, (_, count) => count + 1);
        return done;
    }

    /// <summary>What a command prints.</summary>
    public async Task<string> AskAsync(string command)
    {
        var ran = await RunAsync("sqlite3", "-cmd", ".timeout 8000", file, command);
        Assert.True(ran.ExitCode == 0, ran.Error);
        return ran.Out.Trim();
    }

    public async Task<HashSet<string>> NamesAsync() => [.. (await AskAsync("SELECT name FROM thing")).Split('\n')];

    public override string ToString() =>
        string.Join(", ", Done.Select(pair => string.Create(CultureInfo.InvariantCulture, $"{pair.Key}: {pair.Value}")));

    private static async Task<Ran> RunAsync(string program, params string[] arguments)
    {
        Lacking.Skip("sqlite3");
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return new Ran(process.ExitCode, output, await error);
    }
}
