namespace Jexa.Cli.Output;

/// <summary>A command cannot go on: a sentence for the user, and the exit code.</summary>
internal sealed class CommandException(int exitCode, string message, Exception? inner = null) : Exception(message, inner)
{
    public int ExitCode { get; } = exitCode;
}
