using System.CommandLine;
using System.CommandLine.Parsing;
using System.Globalization;
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

    private readonly Option<int?> _examples = Number<int>(
        "--examples",
        "The most examples of each finding; 5 if omitted",
        1,
        1000
    );

    private readonly Option<long?> _rows = Number<long>(
        "--rows",
        "The most rows of each page and record; all if omitted",
        1,
        long.MaxValue
    );

    private readonly Option<int?> _rate = Number<int>(
        "--rate",
        "The most rows a second, to be gentle on a live database",
        1,
        10_000_000
    );

    private readonly Option<TimeSpan?> _within = new("--within")
    {
        Description = "Stop after this time, such as 90s, 30m or 2h; --resume goes on from there",
        HelpName = "TIME",
        CustomParser = Time,
    };

    public SweepLimitOptions(Command command)
    {
        foreach (var option in new Option[] { _only, _examples, _rows, _rate, _within })
            command.Add(option);
    }

    public SweepLimits Of(ParseResult parsed)
    {
        var usual = new SweepLimits();
        var rate = parsed.GetValue(_rate);
        return usual with
        {
            Only = (parsed.GetValue(_only) ?? []).ToHashSet(),
            Examples = parsed.GetValue(_examples) ?? usual.Examples,
            Rows = parsed.GetValue(_rows),
            RowsPerSecond = rate,
            // A slow sweep reads little at once, so that the source is never busy for long.
            Window = (int)Math.Min(Math.Min(usual.Window, rate ?? usual.Window), parsed.GetValue(_rows) ?? usual.Window),
            Within = parsed.GetValue(_within),
        };
    }

    private static Option<T?> Number<T>(string name, string description, T least, T most)
        where T : struct, System.Numerics.INumber<T> =>
        new(name)
        {
            Description = description,
            HelpName = "N",
            CustomParser = result =>
            {
                var text = result.Tokens[0].Value;
                if (T.TryParse(text, CultureInfo.InvariantCulture, out var number) && number >= least && number <= most)
                    return number;
                result.AddError($"{name} must be a whole number from {least} on, not “{text}”.");
                return null;
            },
        };

    private static TimeSpan? Time(ArgumentResult result)
    {
        var text = result.Tokens[0].Value;
        var unit = text.Length > 1 ? text[^1] : ' ';
        if (
            double.TryParse(text.AsSpan(0, Math.Max(0, text.Length - 1)), CultureInfo.InvariantCulture, out var count)
            && count is > 0 and < 1e6
        )
        {
            switch (unit)
            {
                case 's':
                    return TimeSpan.FromSeconds(count);
                case 'm':
                    return TimeSpan.FromMinutes(count);
                case 'h':
                    return TimeSpan.FromHours(count);
            }
        }

        result.AddError($"--within must be a time such as 90s, 30m or 2h, not “{text}”.");
        return null;
    }
}
