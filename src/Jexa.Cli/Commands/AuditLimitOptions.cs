using System.CommandLine;
using Jexa.Service.Audit;

namespace Jexa.Cli.Commands;

/// <summary>The options that say how much an audit asks for, as whom, and how fast.</summary>
internal sealed class AuditLimitOptions
{
    private readonly Option<string[]> _headers = new("--header")
    {
        Description = "A header of every request, such as the cookie of somebody who is signed in. It is in no report",
        HelpName = "NAME: VALUE",
    };

    private readonly Option<string?> _agent = new("--user-agent")
    {
        Description = "How it names itself; some applications leave links out for programs they do not know",
        HelpName = "TEXT",
    };

    private readonly Option<DrawnWhen?> _drawn = CommonOptions.Word<DrawnWhen>(
        "--drawn",
        "Whether a Chromium of this machine draws the pages, with their scripts: auto (if the plain list has no records), "
            + "always, never",
        "WHEN"
    );

    private readonly Option<int?> _records = CommonOptions.Number<int>(
        "--records",
        "The most records to follow; 12 if omitted",
        1,
        1000
    );

    private readonly Option<int?> _requests = CommonOptions.Number<int>(
        "--requests",
        "The most requests; 300 if omitted",
        1,
        100_000
    );

    private readonly Option<int?> _rate = CommonOptions.Number<int>(
        "--rate",
        "The most requests a second; 5 if omitted",
        1,
        1000
    );

    private readonly Option<TimeSpan?> _within = CommonOptions.Time(
        "--within",
        "Stop after this time, such as 90s or 30m; 5m if omitted"
    );

    public AuditLimitOptions(Command command)
    {
        _headers.Validators.Add(result =>
        {
            foreach (var token in result.Tokens.Where(token => !AuditLimits.IsHeader(token.Value)))
                result.AddError($"--header must be NAME: VALUE, not “{token.Value}”.");
        });
        foreach (var option in new Option[] { _headers, _agent, _records, _requests, _rate, _within, _drawn })
            command.Add(option);
    }

    public AuditLimits Of(ParseResult parsed)
    {
        var usual = new AuditLimits();
        return usual with
        {
            Records = parsed.GetValue(_records) ?? usual.Records,
            Requests = parsed.GetValue(_requests) ?? usual.Requests,
            Pause = parsed.GetValue(_rate) is { } rate ? TimeSpan.FromSeconds(1.0 / rate) : usual.Pause,
            Within = parsed.GetValue(_within) ?? usual.Within,
            Drawn = parsed.GetValue(_drawn) ?? usual.Drawn,
            Agent = parsed.GetValue(_agent) ?? usual.Agent,
            Headers = [.. (parsed.GetValue(_headers) ?? []).Select(AuditLimits.HeaderOf)],
        };
    }
}
