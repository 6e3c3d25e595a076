using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Nodes;
using Jexa.Core.Visits;

namespace Jexa.Core.Tests;

public class OutcomeTests
{
    private static readonly JsonSerializerOptions Indented = new() { WriteIndented = true };

    [Fact]
    public void The_words_of_outcomes_are_those_of_all_outcomes()
    {
        var words = typeof(Outcome)
            .GetNestedTypes()
            .Where(type => type.IsSubclassOf(typeof(Outcome)))
            .Select(type =>
            {
                var constructor = type.GetConstructors().Single();
                var values = constructor
                    .GetParameters()
                    .Select(parameter =>
                        parameter.ParameterType.IsValueType
                            ? RuntimeHelpers.GetUninitializedObject(parameter.ParameterType)
                            : null
                    );
                return ((Outcome)constructor.Invoke([.. values])).Word;
            });
        Assert.Equal(OutcomeKind.All.Select(kind => kind.Word).Order(), words.Order());
    }

    /// <summary>The console draws outcomes by a file that is made from the table; JEXA_WRITE=1 makes it anew.</summary>
    [Fact]
    public void The_console_has_the_table()
    {
        var sides = Enum.GetValues<OutcomeSide>()
            .ToDictionary(
                side => side.ToString().ToLowerInvariant(),
                side => OutcomeKind.All.Where(kind => kind.Side == side).Select(kind => kind.Word).ToArray()
            );
        var json = JsonSerializer.Serialize(sides, Indented) + "\n";
        var file = Repository.File("console/src/parts/outcomes.json");
        if (Environment.GetEnvironmentVariable("JEXA_WRITE") == "1")
            File.WriteAllText(file, json);
        Assert.Equal(JsonNode.Parse(json)!.ToJsonString(), JsonNode.Parse(File.ReadAllText(file))!.ToJsonString());
    }

    /// <summary>Written clients know each outcome that a program can be told of.</summary>
    [Fact]
    public void Clients_know_every_problem()
    {
        foreach (var file in (string[])["bridges.ts", "Bridges.cs"])
        {
            var code = File.ReadAllText(Repository.File($"demo/clients/{file}"));
            foreach (var word in OutcomeKind.All.Where(kind => kind.IsTold).Select(kind => kind.PublicWord))
                Assert.True(code.Contains($"\"{word}\"", StringComparison.Ordinal), $"{file} does not know “{word}”.");
        }
    }
}
