using System.CommandLine;

namespace Jexa.Cli.Commands;

/// <summary>A command whose own help ends with examples.</summary>
internal sealed class ExampleCommand(string name, string description, params string[] examples) : Command(name, description)
{
    public IReadOnlyList<string> Examples { get; } = examples;
}
