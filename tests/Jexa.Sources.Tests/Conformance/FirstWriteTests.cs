namespace Jexa.Sources.Tests.Conformance;

/// <summary>The first saves over a database make Jexa's own table there; several may be the first at once.</summary>
public sealed class FirstWriteTests
{
    private const int Rounds = 6;
    private const int Writers = 8;

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Several_processes_can_make_the_first_save_at_the_same_moment(string engine)
    {
        using var database = new TestDatabase(engine);
        database.Execute("CREATE TABLE thing (id INTEGER PRIMARY KEY)");
        for (var round = 0; round < Rounds; round++)
        {
            await Task.WhenAll(
                Enumerable
                    .Range(0, Writers)
                    .Select(_ =>
                        Task.Run(async () =>
                        {
                            // As another process would: with connections of its own.
                            await using var source = database.Open(seconds: 20);
                            await source.DescribeAsync(CancellationToken.None);
                            await using var session = await source.BeginWriteAsync(CancellationToken.None);
                        })
                    )
            );
            database.Execute("DROP TABLE IF EXISTS jexa_commit");
        }
    }
}
