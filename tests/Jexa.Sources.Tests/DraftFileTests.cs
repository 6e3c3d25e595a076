using System.Text.RegularExpressions;
using Jexa.Core.Drafts;
using Jexa.Demo;
using Jexa.Sources.Tests.Conformance;

namespace Jexa.Sources.Tests;

/// <summary>
/// The drafts of the tests' schemas, kept as files in <c>tests/drafts</c>, so that a change of drafting shows in review.
/// <c>JEXA_WRITE=1</c> writes them anew.
/// </summary>
public sealed partial class DraftFileTests
{
    private static readonly bool Writes = Environment.GetEnvironmentVariable("JEXA_WRITE") == "1";

    [Theory]
    [InlineData("register", "sqlite")]
    [InlineData("register", "postgresql")]
    [InlineData("register", "mariadb")]
    [InlineData("odd", "sqlite")]
    [InlineData("vectors", "sqlite")]
    [InlineData("demo", "sqlite")]
    public async Task A_schema_is_drafted_as_it_was(string name, string engine)
    {
        using var database = new TestDatabase(engine);
        switch (name)
        {
            case "demo":
                RegisterMaker.Ensure(Path.Combine(database.Folder, "register.db"));
                break;
            case "odd":
                database.Execute(OddApp.Schema + OddApp.Rows);
                break;
            case "vectors":
                database.Execute(await File.ReadAllTextAsync(Repository.File("tests/vectors/schema.sql")));
                break;
            default:
                database.Execute(SchemaDialect.Translate(DraftTests.Register, engine));
                break;
        }

        await using var source = database.Open();
        var schema = await source.DescribeAsync(CancellationToken.None);
        var samples = await TableSample.ReadAsync(source, schema, CancellationToken.None);
        var draft = Drafter
            .Write(
                new DraftInput(name, engine, "${BASE}", schema)
                {
                    Samples = samples,
                    Guesses = await RelationGuess.ReadAsync(source, schema, samples, CancellationToken.None),
                }
            )
            .Text;
        var file = Repository.File($"tests/drafts/{name}.{engine}.yaml");
        if (Writes)
            await File.WriteAllTextAsync(file, draft);
        Assert.Equal(await File.ReadAllTextAsync(file), draft);
        Assert.DoesNotMatch(Trailing(), draft);
    }

    [GeneratedRegex(@"[ \t]$", RegexOptions.Multiline)]
    private static partial Regex Trailing();
}
