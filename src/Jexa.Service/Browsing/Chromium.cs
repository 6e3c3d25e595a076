using System.Diagnostics;
using System.Text.Json.Nodes;

namespace Jexa.Service.Browsing;

/// <summary>A headless Chromium of this machine, with a folder of its own that goes with it.</summary>
public sealed class Chromium : IAsyncDisposable
{
    private static readonly string[] Names = ["chromium", "chromium-browser", "chrome"];
    private static readonly TimeSpan StartTime = TimeSpan.FromSeconds(20);

    /// <summary>
    /// Runs the browser until its own input ends: also if this process is killed, the browser ends, and its folder goes.
    /// </summary>
    private const string Watched =
        "setsid \"$0\" \"$@\" & read -r _; kill -s KILL -- -$! 2>/dev/null; wait; sleep 0.2; rm -rf \"$JEXA_BROWSER_FOLDER\"";

    private readonly Process _process;
    private readonly DirectoryInfo _folder;
    private readonly DevTools _tools;

    private Chromium(Process process, DirectoryInfo folder, DevTools tools) =>
        (_process, _folder, _tools) = (process, folder, tools);

    /// <summary>The program of this machine; null if there is none.</summary>
    public static string? Find() =>
        (Environment.GetEnvironmentVariable("PATH") ?? "")
            .Split(Path.PathSeparator, StringSplitOptions.RemoveEmptyEntries)
            .SelectMany(folder => Names.Select(name => Path.Combine(folder, name)))
            .FirstOrDefault(File.Exists);

    /// <exception cref="IOException">It does not start.</exception>
    public static async Task<Chromium> StartAsync(string program, CancellationToken cancellation)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-chromium-");
        string[] arguments =
        [
            "--headless=new",
            "--remote-debugging-port=0",
            $"--user-data-dir={folder.FullName}",
            "--no-first-run",
            "--disable-gpu",
            "--disable-quic",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-extensions",
            "--disable-dev-shm-usage",
            "--mute-audio",
            // As root its sandbox cannot be made.
            .. Environment.UserName == "root" ? ["--no-sandbox"] : Array.Empty<string>(),
            "about:blank",
        ];
        Process? process = null;
        try
        {
            process = Process.Start(
                new ProcessStartInfo("sh", ["-c", Watched, program, .. arguments])
                {
                    RedirectStandardInput = true,
                    RedirectStandardError = true,
                    RedirectStandardOutput = true,
                    Environment = { ["JEXA_BROWSER_FOLDER"] = folder.FullName },
                }
            ) ?? throw new IOException($"{program} does not start.");
            var address = await AddressOfAsync(process, program, cancellation);
            return new Chromium(process, folder, await DevTools.ConnectAsync(address, cancellation));
        }
        catch (Exception failed)
        {
            End(process, folder);
            throw failed is IOException or OperationCanceledException
                ? failed
                : new IOException($"{program} does not start: {failed.Message}", failed);
        }
    }

    /// <summary>Where it listens: it says so on its standard error.</summary>
    private static async Task<Uri> AddressOfAsync(Process process, string program, CancellationToken cancellation)
    {
        const string Says = "DevTools listening on ";
        var found = new TaskCompletionSource<Uri>(TaskCreationOptions.RunContinuationsAsynchronously);
        process.ErrorDataReceived += (_, line) =>
        {
            if (line.Data is null)
                found.TrySetException(new IOException($"{program} has ended."));
            else if (line.Data.StartsWith(Says, StringComparison.Ordinal))
                found.TrySetResult(new Uri(line.Data[Says.Length..].Trim()));
        };
        process.BeginErrorReadLine();
        process.BeginOutputReadLine();
        try
        {
            return await found.Task.WaitAsync(StartTime, cancellation);
        }
        catch (TimeoutException late)
        {
            throw new IOException($"{program} does not say where it listens.", late);
        }
    }

    /// <summary>Opens a tab with cookies of its own.</summary>
    /// <param name="rules">What its pages may ask for.</param>
    internal async Task<Tab> OpenAsync(TabRules rules, Tab? beside, CancellationToken cancellation)
    {
        var name = beside?.Context
            ?? (await _tools.SendAsync("Target.createBrowserContext", [], null, cancellation))
                .GetProperty("browserContextId")
                .GetString()!;
        var made = await _tools.SendAsync(
            "Target.createTarget",
            new JsonObject { ["url"] = "about:blank", ["browserContextId"] = name },
            null,
            cancellation
        );
        var target = made.GetProperty("targetId").GetString()!;
        var attached = await _tools.SendAsync(
            "Target.attachToTarget",
            new JsonObject { ["targetId"] = target, ["flatten"] = true },
            null,
            cancellation
        );
        var names = new TabNames(name, target, attached.GetProperty("sessionId").GetString()!);
        return await Tab.BeginAsync(_tools, names, rules, cancellation);
    }

    public async ValueTask DisposeAsync()
    {
        await _tools.DisposeAsync();
        End(_process, _folder);
    }

    private static void End(Process? process, DirectoryInfo folder)
    {
        if (process is not null)
        {
            try
            {
                process.StandardInput.Close();
                if (!process.WaitForExit(5_000))
                    process.Kill(entireProcessTree: true);
            }
            catch (InvalidOperationException)
            {
                // It has ended by itself.
            }

            process.Dispose();
        }

        for (var tries = 0; tries < 20; tries++)
        {
            try
            {
                folder.Delete(recursive: true);
                return;
            }
            catch (DirectoryNotFoundException)
            {
                return;
            }
            catch (Exception held) when (held is IOException or UnauthorizedAccessException)
            {
                Thread.Sleep(100);
            }
        }
    }
}
