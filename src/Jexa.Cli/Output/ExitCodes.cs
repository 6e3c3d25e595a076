namespace Jexa.Cli.Output;

/// <summary>What the command line's exit codes mean.</summary>
internal static class ExitCodes
{
    public const int Fine = 0;
    public const int Findings = 1;
    public const int WrongUse = 2;
    public const int CannotReach = 3;

    /// <summary>A fault of Jexa's own.</summary>
    public const int Unforeseen = 4;
}
