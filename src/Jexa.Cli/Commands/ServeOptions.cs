using System.CommandLine;
using System.CommandLine.Parsing;
using System.Net;
using Jexa.Core.Addresses;
using Jexa.Service.Hosting;

namespace Jexa.Cli.Commands;

/// <summary>The options of commands that serve an app.</summary>
internal sealed class ServeOptions
{
    private readonly Option<int> _port = CommonOptions.Port("Port of the pages");
    private readonly Option<int?> _consolePort = CommonOptions.ConsolePort();
    private readonly Option<string?> _state = CommonOptions.State();

    private readonly Option<LogDetail?> _log = CommonOptions.Word<LogDetail>(
        "--log",
        "What is logged, on standard error: none, trouble (if omitted), or visits (one line each as well)",
        "WHAT"
    );

    private readonly Option<LogForm?> _logForm = CommonOptions.Word<LogForm>(
        "--log-form",
        "How log lines are written: text (if omitted) or json",
        "FORM"
    );

    private readonly Option<string?> _collector = new("--telemetry")
    {
        Description =
            "URL of an OpenTelemetry collector that is told of every visit, over OTLP by HTTP; "
            + "OTEL_EXPORTER_OTLP_ENDPOINT if omitted",
        HelpName = "URL",
        DefaultValueFactory = _ =>
            Environment.GetEnvironmentVariable("OTEL_EXPORTER_OTLP_ENDPOINT") is { Length: > 0 } url ? url : null,
    };

    private readonly Option<string> _below = new("--below")
    {
        Description = "Path prefix of the pages, behind a proxy",
        DefaultValueFactory = _ => "",
        HelpName = "PATH",
    };

    private readonly Option<string[]> _host = new("--host")
    {
        Description = "Host name that the pages answer to besides 127.0.0.1 and localhost; may be repeated",
        HelpName = "NAME",
    };

    private readonly Option<string[]> _proxy = new("--proxy")
    {
        Description = "Address of a proxy whose X-Forwarded-For and X-Forwarded-Host count; may be repeated",
        HelpName = "ADDRESS",
    };

    private readonly Option<string[]> _listen = new("--listen")
    {
        Description =
            "Address of this machine that the pages listen on, such as 0.0.0.0 or ::; 127.0.0.1 if omitted; may be repeated",
        HelpName = "ADDRESS",
    };

    private readonly Option<int?> _keep = new("--changes-keep")
    {
        Description = "For how many days the change log keeps changes; for ever if omitted",
        HelpName = "DAYS",
    };

    private readonly Option<bool> _fresh = new("--fresh")
    {
        Description = "For developing: browsers load a page again by themselves when the app file or a design is saved",
    };

    public ServeOptions()
    {
        _collector.Validators.Add(CheckCollector);
        _below.Validators.Add(CheckMount);
        _host.Validators.Add(CheckHosts);
        _proxy.Validators.Add(CheckAddresses);
        _listen.Validators.Add(CheckAddresses);
        _keep.Validators.Add(CheckDays);
    }

    public void AddTo(Command command)
    {
        Option[] all = [_port, _consolePort, _listen, _state, _keep, _log, _logForm, _collector, _below, _host, _proxy, _fresh];
        foreach (var option in all)
            command.Add(option);
    }

    /// <summary>What was given on the command line.</summary>
    public ServiceOptions Read(ParseResult parsed, string file)
    {
        var pages = parsed.GetValue(_port);
        return new ServiceOptions(
            file,
            pages,
            parsed.GetValue(_consolePort) ?? (pages is 0 or 65535 ? 0 : pages + 1),
            parsed.GetValue(_state),
            parsed.GetValue(_log) ?? LogDetail.Trouble
        )
        {
            Mount = Mount.Parse(parsed.GetValue(_below)!)!,
            Hosts = parsed.GetValue(_host) ?? [],
            LogForm = parsed.GetValue(_logForm) ?? LogForm.Text,
            Collector = parsed.GetValue(_collector) is { } url ? new Uri(url) : null,
            Proxies = [.. (parsed.GetValue(_proxy) ?? []).Select(IPAddress.Parse)],
            Listen = [.. (parsed.GetValue(_listen) ?? []).Select(IPAddress.Parse).Distinct()],
            Fresh = parsed.GetValue(_fresh),
            ChangesKept = parsed.GetValue(_keep) is { } days ? TimeSpan.FromDays(days) : null,
        };
    }

    private static void CheckMount(OptionResult result)
    {
        if (result.Tokens is [{ Value: var text }] && Mount.Parse(text) is null)
            result.AddError($"--below must be a path such as /register, of letters, digits and - . _ ~, not “{text}”.");
    }

    private static void CheckHosts(OptionResult result)
    {
        foreach (var token in result.Tokens)
            if (
                Uri.CheckHostName(token.Value.Split(':')[0]) == UriHostNameType.Unknown
                || !Uri.TryCreate($"http://{token.Value}/", UriKind.Absolute, out var uri)
                || uri.PathAndQuery != "/"
                || uri.UserInfo.Length > 0
            )
                result.AddError($"--host must be a host name, with a port if visitors write one, not “{token.Value}”.");
    }

    private static void CheckCollector(OptionResult result)
    {
        if (
            result.GetValueOrDefault<string?>() is { } text
            && (!Uri.TryCreate(text, UriKind.Absolute, out var url) || url.Scheme is not ("http" or "https"))
        )
            result.AddError($"--telemetry must be a URL such as http://127.0.0.1:4318, not “{text}”.");
    }

    private static void CheckAddresses(OptionResult result)
    {
        foreach (var token in result.Tokens)
            if (!IPAddress.TryParse(token.Value, out _))
                result.AddError($"{result.Option.Name} must be an IP address, not “{token.Value}”.");
    }

    private static void CheckDays(OptionResult result)
    {
        if (result.Tokens is [{ Value: var text }] && (!int.TryParse(text, out var days) || days is < 1 or > 36_500))
            result.AddError($"--changes-keep must be a number of days from 1 to 36500, not “{text}”.");
    }
}
