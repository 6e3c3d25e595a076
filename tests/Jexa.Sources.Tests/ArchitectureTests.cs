using NetArchTest.Rules;

namespace Jexa.Sources.Tests;

/// <summary>Holds the arrows between the rooms of the code, as docs/map.md draws them.</summary>
public class ArchitectureTests
{
    private static readonly System.Reflection.Assembly Core = typeof(Core.Sites.Site).Assembly;

    [Fact]
    public void Core_points_at_nothing_of_ours_and_knows_no_HTTP_and_no_SQL() =>
        Holds(Types.InAssembly(Core).ShouldNot().HaveDependencyOnAny(
            "Jexa.Sources", "Jexa.Service", "Jexa.Cli", "Microsoft.AspNetCore", "Microsoft.Data", "SQLitePCL", "System.Net.Http", "Serilog"));

    [Fact]
    public void Sources_point_at_Core_alone() =>
        Holds(Types.InAssembly(typeof(Sqlite.SqliteEngine).Assembly).ShouldNot().HaveDependencyOnAny("Jexa.Service", "Jexa.Cli", "Microsoft.AspNetCore"));

    [Fact]
    public void The_service_does_not_know_the_command_line() =>
        Holds(Types.InAssembly(typeof(Service.JexaService).Assembly).ShouldNot().HaveDependencyOnAny("Jexa.Cli", "System.CommandLine", "Spectre.Console"));

    [Theory]
    [InlineData("Values", "Definitions Schemas Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Edits", "Definitions Plans Views Sites Visits")]
    [InlineData("Definitions", "Schemas Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Schemas", "Definitions Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Keys", "Definitions Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Addresses", "Definitions Schemas Keys Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Plans", "Definitions Schemas Keys Addresses Sources Formats Views Edits Sites Visits")]
    [InlineData("Sources", "Definitions Keys Addresses Formats Views Edits Sites Visits")]
    [InlineData("Formats", "Definitions Schemas Keys Addresses Plans Sources Views Edits Sites Visits")]
    [InlineData("Views", "Definitions Plans Sources Sites Visits")]
    [InlineData("Sites", "Visits")]
    public void Inside_Core_arrows_run_one_way(string room, string others) =>
        Holds(Types.InAssembly(Core).That().ResideInNamespace($"Jexa.Core.{room}").ShouldNot()
            .HaveDependencyOnAny([.. others.Split(' ').Select(other => $"Jexa.Core.{other}")]));

    private static void Holds(ConditionList rule)
    {
        var result = rule.GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }
}
