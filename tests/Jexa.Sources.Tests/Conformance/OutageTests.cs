using System.Diagnostics;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Tests.Conformance;

/// <summary>Servers that stop, come back, and freeze in the middle of everything; sources beside them go on.</summary>
public sealed class OutageTests
{
    private static readonly TimeSpan Limit = TimeSpan.FromSeconds(1);

    private static ISource Open(PrivateServer server, string database, string? connection = null) =>
        TestDatabase
            .EngineOf(server.Engine)
            .Open(new SourceSettings(server.Engine, connection ?? server.Connection(database), "the register", "/", Limit));

    private static async Task<string> NameAsync(ISource source)
    {
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of("t")),
                [],
                [new Projection(ColumnRef.Own("name"), FieldType.Text)],
                [new Condition.Equal(ColumnRef.Own("id"), new Operand.Argument(0, FieldType.Integer))],
                null,
                [],
                2
            )
        );
        var rows = new RowBlock();
        rows.Reset(1);
        try
        {
            await query.RunAsync([new TypedValue.Whole(1)], rows, CancellationToken.None);
            return rows.Count == 1 ? rows[0].Text(0) : "nothing";
        }
        catch (SourceException trouble)
        {
            return trouble.Trouble.ToString();
        }
    }

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task A_server_that_stops_is_away_and_serves_again_when_it_is_back(string engine)
    {
        using var server = PrivateServer.New(engine);
        var database = server.NewDatabase();
        server.Execute(database, "CREATE TABLE t (id integer PRIMARY KEY, name varchar(20)); INSERT INTO t VALUES (1, 'one')");
        await using var source = Open(server, database);
        await source.DescribeAsync(CancellationToken.None);
        Assert.Equal("one", await NameAsync(source));
        server.Stop();
        for (var i = 0; i < 5; i++)
            Assert.Equal("Away", await NameAsync(source));
        await Assert.ThrowsAsync<SourceException>(async () => await source.ProbeAsync(CancellationToken.None));
        await Assert.ThrowsAsync<SourceException>(async () => await source.BeginWriteAsync(CancellationToken.None));
        server.Start();
        await Eventually.TrueAsync(async () => await NameAsync(source) == "one");

        // A frozen one is too slow, for as many as ask, and takes nothing of the sources beside it.
        using var beside = new TestDatabase("sqlite");
        beside.Execute("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT); INSERT INTO t VALUES (1, 'beside')");
        await using var other = beside.Open();
        server.Freeze();
        var clock = Stopwatch.StartNew();
        var frozen = Enumerable.Range(0, 40).Select(_ => NameAsync(source)).ToArray();
        for (var i = 0; i < 50; i++)
            Assert.Equal("beside", await NameAsync(other));
        Assert.True(clock.Elapsed < Limit, $"The source beside it took {clock.Elapsed}.");
        Assert.All(await Task.WhenAll(frozen), outcome => Assert.True(outcome is "TooSlow" or "Away", outcome));
        Assert.InRange(clock.Elapsed.TotalSeconds, 0.9, 12);
        server.Thaw();
        await Eventually.TrueAsync(async () => await NameAsync(source) == "one");
    }

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task What_cannot_be_connected_to_is_away_and_says_why_without_a_secret(string engine)
    {
        var server = (engine == "postgresql" ? PrivateServer.Postgres : PrivateServer.MariaDb).Value;
        var database = server.NewDatabase();
        foreach (
            var (connection, why) in new[]
            {
                (server.Connection(database, "jexa", "wr0ng-secret"), "jexa"),
                (server.Connection("no_such_database"), "no_such_database"),
                (
                    server
                        .Connection(database)
                        .Replace(server.Port.ToString(System.Globalization.CultureInfo.InvariantCulture), "1"),
                    ""
                ),
            }
        )
        {
            await using var source = Open(server, database, connection);
            var away = await Assert.ThrowsAsync<SourceException>(async () => await source.DescribeAsync(CancellationToken.None));
            Assert.Equal(SourceTrouble.Away, away.Trouble);
            Assert.Contains(why, away.Message);
            Assert.DoesNotContain("wr0ng-secret", away.Message);
        }

        var nonsense = Assert.Throws<SourceException>(() => Open(server, database, "This is=no;connection wr0ng-secret"));
        Assert.DoesNotContain("wr0ng-secret", nonsense.Message);
    }

    [Theory]
    [InlineData("postgresql", "postgresql", "Application%20Name=jexa-test")]
    [InlineData("postgresql", "postgres", "sslmode=disable")]
    [InlineData("mariadb", "mariadb", "SslMode=none")]
    public async Task A_URI_connects_and_nothing_in_it_is_left_unread(string engine, string scheme, string option)
    {
        var server = (engine == "postgresql" ? PrivateServer.Postgres : PrivateServer.MariaDb).Value;
        var address =
            $"{scheme}://jexa:{Uri.EscapeDataString(PrivateServer.Password)}@127.0.0.1:{server.Port}/{server.NewDatabase()}";
        await using var source = Open(server, "", $"{address}?{option}");
        await source.ProbeAsync(CancellationToken.None);
        Assert.Throws<SourceException>(() => Open(server, "", $"{address}?no_such_option=1"));
    }
}
