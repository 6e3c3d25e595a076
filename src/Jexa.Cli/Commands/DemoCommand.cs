using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Demo;
using Jexa.Service.Hosting;

namespace Jexa.Cli.Commands;

/// <summary><c>jexa demo</c>: makes the bridge register at the first start, and serves it.</summary>
internal static class DemoCommand
{
    public static Command Create()
    {
        var command = new ExampleCommand(
            "demo",
            "Serve the demo: the bridge register of an invented valley. Its database is made at first start.",
            "jexa demo",
            "jexa demo --port 8080"
        );
        var afresh = new Option<bool>("--afresh") { Description = "Make the demo's data anew: what was changed in it is gone" };
        command.Add(afresh);
        command.Add(
            DemoIntoCommand.Create(() =>
            {
                var folder = Folder();
                SourceEngines.Prepare();
                Ensure(folder, false);
                return Path.Combine(folder, "data", "register.db");
            })
        );
        var options = new ServeOptions();
        options.AddTo(command);
        command.SetAction(
            (parsed, cancellation) =>
            {
                var folder = Folder();
                SourceEngines.Prepare();
                Ensure(folder, parsed.GetValue(afresh));
                var file = Path.GetRelativePath(Environment.CurrentDirectory, Path.Combine(folder, "bridges.yaml"));
                return RunAsync(folder, options.Read(parsed, file), cancellation);
            }
        );
        return command;
    }

    /// <summary>Serves the demo with the two programs that belong to it: the gauges' API and a front end.</summary>
    private static async Task<int> RunAsync(string folder, ServiceOptions options, CancellationToken cancellation)
    {
        // If another demo has these ports, this one uses others for its programs, and its pages lead there.
        using var gauges = GaugeService.Start() ?? GaugeService.Start(0);
        using var front = FrontService.Start(folder);
        var instead = new Dictionary<string, string>();
        if (gauges is not null)
            instead[$"http://127.0.0.1:{GaugeService.Port}"] = gauges.Url;
        instead[$"http://127.0.0.1:{FrontService.Port}"] = front?.Url ?? "";
        if (front is not null)
            await Console.Error.WriteLineAsync($"A front end of its own, over the same pages: {front.Url}/sketches");
        if (instead.Any(place => place.Value.Length > 0 && place.Key != place.Value))
            await Console.Error.WriteLineAsync(
                "Another demo is running on this machine. This one's own programs are on other ports; demos of one clone "
                    + "use the same data."
            );
        return await ServeCommand.RunAsync(options with { Instead = instead }, cancellation, service =>
        {
            if (front is not null)
                front.Register = service.PagesUrl.TrimEnd('/');
        });
    }

    private static void Ensure(string folder, bool afresh)
    {
        try
        {
            if (RegisterMaker.Ensure(Path.Combine(folder, "data", "register.db"), afresh))
                Console.Error.WriteLine("The demo's database has been made.");
        }
        catch (Exception refused)
            when (refused is IOException or UnauthorizedAccessException or Microsoft.Data.Sqlite.SqliteException)
        {
            throw new CommandException(
                ExitCodes.CannotReach,
                $"The demo's database cannot be made in {folder}: {refused.Message}",
                refused
            );
        }
    }

    /// <summary>The folder of the demo's app file, in the repository that this program was built in.</summary>
    private static string Folder()
    {
        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
        {
            var folder = Path.Combine(at.FullName, "demo");
            if (File.Exists(Path.Combine(folder, "bridges.yaml")))
                return folder;
        }

        throw new CommandException(
            ExitCodes.CannotReach,
            "The demo's app file, demo/bridges.yaml, is not in the repository any more."
        );
    }
}
