using System.CommandLine;
using Jexa.Core.Proof;

namespace Jexa.Cli.Commands;

/// <summary>The options that say how much a sweep reads, and how fast.</summary>
internal sealed class SweepLimitOptions
{
    private readonly Option<string[]> _only = new("--only")
    {
        Description = "Only these pages and records, by their names in the app file",
        HelpName = "NAME",
        AllowMultipleArgumentsPerToken = true,
    };

    private readonly Option<int?> _examples = CommonOptions.Number<int>(
        "--examples",
        "The most examples of each finding; 5 if omitted",
        1,
        1000
    );

    private readonly Option<long?> _rows = CommonOptions.Number<long>(
        "--rows",
        "The most rows of each page and record; all if omitted",
        1,
        long.MaxValue
    );

    private readonly Option<int?> _rate = CommonOptions.Number<int>(
        "--rate",
        "The most rows a second, to be gentle on a live database",
        1,
        10_000_000
    );

    private readonly Option<int?> _fetch = CommonOptions.Number<int>(
        "--fetch",
        "Ask the running service for so many records, chosen by chance, and compare what it shows with their rows",
        1,
        1_000_000
    );

    private readonly Option<TimeSpan?> _within = CommonOptions.Time(
        "--within",
        "Stop after this time, such as 90s, 30m or 2h; --resume goes on from there"
    );

    public SweepLimitOptions(Command command)
    {
        foreach (var option in new Option[] { _only, _examples, _rows, _rate, _within, _fetch })
            command.Add(option);
    }

    public SweepLimits Of(ParseResult parsed)
    {
        var usual = new SweepLimits();
        return usual.At(parsed.GetValue(_rate)) with
        {
            Only = (parsed.GetValue(_only) ?? []).ToHashSet(),
            Examples = parsed.GetValue(_examples) ?? usual.Examples,
            Rows = parsed.GetValue(_rows),
            Within = parsed.GetValue(_within),
            Fetch = parsed.GetValue(_fetch) ?? 0,
        };
    }
}
