using System.CommandLine;
using System.Text;
using Jexa.Cli.Output;
using Jexa.Core.Addresses;
using Jexa.Core.Files;
using Jexa.Core.Sites;
using Jexa.Service.Clients;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Spectre.Console;

namespace Jexa.Cli.Commands;

/// <summary>
/// <c>jexa client LANGUAGE APP_FILE</c>: writes an app's pages as typed code for front ends and programs, or says whether what
/// was written is out of date.
/// </summary>
internal static class ClientCommand
{
    private static readonly string[] Languages = ["typescript", "csharp"];

    /// <param name="Text">The written code; null if it went into a file.</param>
    private sealed record WriteReport(string Language, int Pages, string? File, bool Changed, string? Text);

    /// <param name="Line">The first line that differs, from 1; null for none.</param>
    private sealed record CheckReport(string Language, string File, bool Current, int? Line);

    private static readonly Argument<string> Language = new("LANGUAGE") { Description = "typescript or csharp" };
    private static readonly Argument<string> AppFile = new("APP_FILE") { Description = "The app file" };

    private static readonly Option<string?> Output = new("--out")
    {
        Description = "File to write; standard output if omitted. An existing one is written over",
        HelpName = "FILE",
    };

    private static readonly Option<string?> Known = new("--check")
    {
        Description = "File that was written before: say whether it is up to date (exit code 1 if not). Nothing is written",
        HelpName = "FILE",
    };

    private static readonly Option<string?> Below = new("--below")
    {
        Description = "Path prefix of the pages, as in jexa serve",
        HelpName = "PREFIX",
    };

    private static readonly Option<string?> Namespace = new("--namespace")
    {
        Description = "csharp: the namespace; made from the app's name if omitted",
        HelpName = "NAME",
    };

    private static readonly Option<bool> AsJson = CommonOptions.Json();

    public static Command Create()
    {
        var command = new ExampleCommand(
            "client",
            "Write an app's pages as typed code: addresses, reading them back, loading and saving. One file "
                + "that needs nothing else.",
            "jexa client typescript register.yaml --out src/register.ts",
            "jexa client csharp register.yaml --out Register.cs --namespace Valley",
            "jexa client typescript register.yaml --check src/register.ts"
        )
        {
            Language,
            AppFile,
            Output,
            Known,
            Below,
            Namespace,
            AsJson,
        };
        Language.Validators.Add(result =>
        {
            if (result.Tokens is [{ Value: var word }] && !Languages.Contains(word))
                result.AddError($"LANGUAGE must be typescript or csharp, not “{word}”.");
        });
        command.SetAction(RunAsync);
        return command;
    }

    private static async Task<int> RunAsync(ParseResult parsed, CancellationToken cancellation)
    {
        var (language, json) = (parsed.GetValue(Language)!, parsed.GetValue(AsJson));
        if (parsed.GetValue(Output) is not null && parsed.GetValue(Known) is not null)
            throw new CommandException(ExitCodes.WrongUse, "--out writes and --check only looks: give one of them.");
        if (language != "csharp" && parsed.GetValue(Namespace) is not null)
            throw new CommandException(ExitCodes.WrongUse, "--namespace is for csharp.");
        if (parsed.GetValue(Namespace) is { } named && !CSharpWriter.IsNamespace(named))
            throw new CommandException(ExitCodes.WrongUse, $"“{named}” is no namespace; write one such as Valley.Register.");
        var mount = Mount.Root;
        if (parsed.GetValue(Below) is { } prefix)
            mount = Mount.Parse(prefix)
                ?? throw new CommandException(ExitCodes.WrongUse, $"“{prefix}” is no path prefix; write one such as /register.");
        var site = await CompileAsync(parsed.GetValue(AppFile)!, mount, cancellation);
        var text = language == "csharp" ? CSharpWriter.Write(site, parsed.GetValue(Namespace)) : TypeScriptWriter.Write(site);
        return parsed.GetValue(Known) is { } known
            ? Check(language, known, text, json)
            : Write(language, site.Pages.Count, parsed.GetValue(Output), text, json);
    }

    private static async Task<Site> CompileAsync(string file, Mount mount, CancellationToken cancellation)
    {
        await using var sources = SourceEngines.Open();
        try
        {
            var compilation = await AppFileCompiler.CompileAsync(file, sources, mount, cancellation);
            if (compilation.Site is { Waiting.Count: 0 } site && !compilation.SourceIsAway)
                return site;
            FindingView.Write(Terminal.Error(), SiteReport.Of(compilation.Findings, compilation.Definition));
            throw compilation.SourceIsAway
                ? new CommandException(
                    ExitCodes.CannotReach,
                    $"A source of {file} cannot be reached, so its pages are not known. Nothing was written."
                )
                : new CommandException(ExitCodes.Findings, $"{file} makes no site. Nothing was written.");
        }
        catch (StartException refused)
        {
            throw new CommandException(ExitCodes.WrongUse, refused.Message, refused);
        }
    }

    private static int Write(string language, int pages, string? file, string text, bool json)
    {
        if (file is null)
        {
            if (json)
                Terminal.Json(new WriteReport(language, pages, null, true, text));
            else
                Console.Write(text);
            return ExitCodes.Fine;
        }

        // A file without changes keeps its time, so that nothing is built again because of it.
        var changed = Read(file) != text;
        try
        {
            if (changed)
                PlainFile.WriteAllBytes(file, Encoding.UTF8.GetBytes(text));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be written: {refused.Message}", refused);
        }

        if (json)
            Terminal.Json(new WriteReport(language, pages, file, changed, null));
        else
            Terminal.Out().WriteLine(changed ? $"{file}: {pages} pages." : $"{file} is as it should be: {pages} pages.");
        return ExitCodes.Fine;
    }

    private static int Check(string language, string file, string text, bool json)
    {
        if (Read(file) is not { } known)
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be read.");
        var (now, then) = (text.Split('\n'), known.Replace("\r\n", "\n").Split('\n'));
        int? line = now.AsSpan().SequenceEqual(then)
            ? null
            : Enumerable
                .Range(0, Math.Max(now.Length, then.Length))
                .First(i => i >= now.Length || i >= then.Length || now[i] != then[i]) + 1;
        if (json)
            Terminal.Json(new CheckReport(language, file, line is null, line));
        else if (line is null)
            Terminal.Out().WriteLine($"{file} is as it should be.");
        else
        {
            Terminal.Error().WriteLine($"{file} is out of date, from line {line} on:");
            Terminal.Error().WriteLine($"  it has   {(line <= then.Length ? Cut(then[line.Value - 1]) : "nothing")}");
            Terminal.Error().WriteLine($"  not      {(line <= now.Length ? Cut(now[line.Value - 1]) : "nothing")}");
            Terminal.Error().WriteLine($"Write it again: jexa client {language} APP_FILE --out {file}");
        }

        return line is null ? ExitCodes.Fine : ExitCodes.Findings;
    }

    private static string Cut(string text) => text.Length <= 100 ? text : text[..100] + "…";

    private static string? Read(string file)
    {
        try
        {
            return File.Exists(file) ? PlainFile.ReadAllText(file) : null;
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be read: {refused.Message}", refused);
        }
    }
}
