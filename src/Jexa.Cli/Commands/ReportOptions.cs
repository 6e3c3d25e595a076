using System.CommandLine;
using Jexa.Cli.Output;
using Jexa.Core.Files;
using Jexa.Service.Proof;

namespace Jexa.Cli.Commands;

/// <summary>The options of all commands that make a report: where it goes, and what it is compared with.</summary>
internal sealed class ReportOptions
{
    private const long MostBytes = 64 * 1024 * 1024;

    private readonly Option<bool> _json = CommonOptions.Json();

    private readonly Option<string[]> _reports = new("--report")
    {
        Description = $"File to write the report into; its ending says how: {ReportForms.Endings}. Can be given several times",
        HelpName = "FILE",
    };

    private readonly Option<string?> _baseline = new("--baseline")
    {
        Description = "An earlier report (.json): what it has is known, and only what is new fails",
        HelpName = "FILE",
    };

    private readonly Option<string?> _since = new("--since")
    {
        Description = "An earlier report (.json): say what is new since, and what is gone",
        HelpName = "FILE",
    };

    /// <param name="hasJson">Whether the report is what --json prints; else the command has an option of its own.</param>
    public ReportOptions(Command command, bool hasJson = true)
    {
        _reports.Validators.Add(result =>
        {
            foreach (var token in result.Tokens.Where(token => !ReportForms.Knows(token.Value)))
                result.AddError($"--report {token.Value} must end in {ReportForms.Endings}.");
        });
        if (hasJson)
            command.Add(_json);
        command.Add(_reports);
        command.Add(_baseline);
        command.Add(_since);
    }

    /// <summary>Whether standard output is for programs.</summary>
    public bool IsJson(ParseResult parsed) => parsed.GetValue(_json);

    /// <summary>Reads the report that another is compared with, before anything is done.</summary>
    /// <exception cref="CommandException">It cannot be read, or is none.</exception>
    public Func<ProofReport, ProofReport> Comparison(ParseResult parsed)
    {
        if (parsed.GetValue(_baseline) is { } baseline)
        {
            var known = Read(baseline);
            return report => JsonReport.Beside(report, known, forgives: true);
        }

        if (parsed.GetValue(_since) is not { } since)
            return report => report;
        var earlier = Read(since);
        return report => JsonReport.Beside(report, earlier, forgives: false);
    }

    /// <summary>Writes a report where it is wanted, shows it, and says how the command ends.</summary>
    public int Finish(ParseResult parsed, ProofReport report)
    {
        Save(parsed, report);
        if (IsJson(parsed))
            System.Console.Out.Write(System.Text.Encoding.UTF8.GetString(ReportForms.Write("report.json", report)));
        else
            ReportView.Write(report);
        return report.Fails ? ExitCodes.Findings
            : report.NotSeen.Any(gap => !gap.IsChosen) ? ExitCodes.CannotReach
            : ExitCodes.Fine;
    }

    /// <summary>Writes a report into the files that it is wanted in.</summary>
    public void Save(ParseResult parsed, ProofReport report)
    {
        foreach (var file in parsed.GetValue(_reports) ?? [])
        {
            try
            {
                PlainFile.WriteAllBytes(file, ReportForms.Write(file, report));
            }
            catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
            {
                throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be written: {refused.Message}", refused);
            }
        }
    }

    private static ProofReport Read(string file)
    {
        try
        {
            return JsonReport.Read(PlainFile.ReadAllBytes(file, MostBytes))
                ?? throw new CommandException(ExitCodes.WrongUse, $"{file} is no report: write one with --report FILE.json.");
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new CommandException(ExitCodes.WrongUse, $"{file} cannot be read: {refused.Message}", refused);
        }
    }
}
