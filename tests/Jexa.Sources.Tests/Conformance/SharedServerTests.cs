using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Tests.Conformance;

/// <summary>
/// A server that others rule: what may not be done is said before anybody meets it, few connections are enough, and a copy is
/// read where it may be.
/// </summary>
public sealed class SharedServerTests
{
    private const string Password = "guest'1";

    private static readonly string Tables =
        "CREATE TABLE a (id integer PRIMARY KEY, name varchar(20)); CREATE TABLE b (id integer PRIMARY "
        + "KEY); CREATE TABLE c (id integer PRIMARY KEY, name varchar(20) NOT NULL); INSERT INTO a VALUES "
        + "(1, 'one')";

    private static void Grant(TestDatabase database, string user, params string[] grants)
    {
        if (database.Engine == "postgresql")
            database.Execute($"CREATE ROLE {user} LOGIN PASSWORD '{Password.Replace("'", "''")}'");
        else
            database.Execute($"CREATE USER '{user}'@'127.0.0.1' IDENTIFIED BY '{Password.Replace("'", "''")}'");
        foreach (var grant in grants)
            database.Execute($"{grant} TO {Of(database, user)}");
    }

    private static string Of(TestDatabase database, string user) =>
        database.Engine == "postgresql" ? user : $"'{user}'@'127.0.0.1'";

    private static string User() => $"guest_{Guid.NewGuid():N}"[..20];

    private static SourceSettings As(TestDatabase database, string user) =>
        new(
            database.Engine,
            database.Server.Connection(database.Name, user, Password),
            "the register",
            "/",
            TimeSpan.FromSeconds(3)
        );

    private static async Task<string> NamesAsync(IPreparedQuery query)
    {
        var rows = new RowBlock();
        rows.Reset(1);
        await query.RunAsync([], rows, CancellationToken.None);
        return string.Join(", ", Enumerable.Range(0, rows.Count).Select(i => rows[i].Text(0)));
    }

    private static RecordQuery Names(string table) =>
        new(
            RecordRows.Whole(RowOrigin.Of(table)),
            [],
            [new Projection(ColumnRef.Own("name"), FieldType.Text)],
            [],
            null,
            [new Ordering.ByColumn(ColumnRef.Own("id"), false, null)],
            10
        );

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task What_the_user_of_the_connection_may_not_do_is_a_finding(string engine)
    {
        using var database = new TestDatabase(engine);
        database.Execute(Tables);
        var user = User();
        // The other system hides a table from those who may do nothing with it.
        Grant(database, user, "GRANT SELECT ON a", "GRANT INSERT ON b", "GRANT SELECT, INSERT ON c");
        await using var served = new ServedApp("app.yaml", _ => As(database, user).Connection, TestDatabase.EngineOf(engine));
        var app = $$"""
            app: Test
            sources: { s: { engine: {{engine}}, connection: "${DATABASE}"WRITING } }
            records: { a: { from: s.a }, b: { from: s.b }, c: { from: s.c } }
            pages:
              a: { path: "/a/{id}", detail: a }
              a-edit: { path: "/a/{id}/edit", edit: a }
              b: { path: /b, list: b }
              c-new: { path: /c/new, new: c }
              c-delete: { path: "/c/{id}/delete", delete: c }
            """;
        var findings = (await served.CompileAsync(app.Replace("WRITING", ", writing: bare")))
            .Findings.Where(finding => finding.Code.Severity == Core.Definitions.Severity.Error)
            .Select(finding => $"{finding.Code.Id} {finding.Message} {finding.Remedy}")
            .ToList();
        Assert.Collection(
            findings.Order(),
            first => Assert.Matches("JX211 b is there, but the user of the connection may not read it. GRANT SELECT ON ", first),
            second =>
                Assert.Contains(
                    "JX421 The as of “a-edit” cannot be changed: the user of the connection may not update rows of a.",
                    second
                ),
            third =>
                Assert.Contains(
                    "JX421 The cs of “c-delete” cannot be changed: the user of the connection may not delete rows of c.",
                    third
                )
        );

        // Jexa's own table may not be made either, until somebody makes it.
        Assert.Contains((await served.CompileAsync(app.Replace("WRITING", ""))).Findings, finding =>
            finding.Code.Id == "JX421" && finding.Message.Contains("may not make Jexa's table jexa_commit")
        );
        await using (var owner = database.Open())
            await (await owner.BeginWriteAsync(CancellationToken.None)).DisposeAsync();
        foreach (
            var grant in new[]
            {
                "GRANT SELECT, INSERT ON jexa_commit",
                "GRANT SELECT ON b",
                "GRANT UPDATE ON a",
                "GRANT DELETE ON c",
            }
        )
            database.Execute($"{grant} TO {Of(database, user)}");
        await served.SiteAsync(app.Replace("WRITING", ""));
    }

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task A_server_that_takes_few_connections_serves_many_callers_with_those_it_takes(string engine)
    {
        using var database = new TestDatabase(engine);
        database.Execute(Tables);
        var user = User();
        Grant(database, user, "GRANT SELECT ON a");
        database.Execute(
            engine == "postgresql"
                ? $"ALTER ROLE {user} CONNECTION LIMIT 2"
                : $"ALTER USER {Of(database, user)} WITH MAX_USER_CONNECTIONS 2"
        );
        await using var source = TestDatabase.EngineOf(engine).Open(As(database, user));
        await source.DescribeAsync(CancellationToken.None);
        var query = source.Prepare(Names("a"));
        await Parallel.ForEachAsync(Enumerable.Range(0, 300), new ParallelOptions { MaxDegreeOfParallelism = 30 }, async (_, _) =>
            Assert.Equal("one", await NamesAsync(query))
        );

        // Where others have them all, the source is away, and says why.
        await using var other = TestDatabase.EngineOf(engine).Open(As(database, user));
        var full = await Assert.ThrowsAsync<SourceException>(async () => await other.DescribeAsync(CancellationToken.None));
        Assert.Equal(SourceTrouble.Away, full.Trouble);
        Assert.Contains("connections", full.Message);
    }

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task A_replica_is_read_except_by_those_who_must_see_every_change_and_is_not_missed_when_it_is_away(string engine)
    {
        using var database = new TestDatabase(engine);
        using var copy = new TestDatabase(engine);
        foreach (var each in new[] { database, copy })
            each.Execute(Tables);
        database.Execute("UPDATE a SET name = 'changed' WHERE id = 1");
        await using var source = TestDatabase
            .EngineOf(engine)
            .Open(
                new SourceSettings(engine, database.Connection, "the register", "/", TimeSpan.FromSeconds(3))
                {
                    Replica = copy.Connection,
                }
            );
        await source.DescribeAsync(CancellationToken.None);
        var query = source.Prepare(Names("a"));
        Assert.True(source.HasReplica);
        Assert.Equal("one", await NamesAsync(query));
        Assert.Equal("changed", await NamesAsync(query.Latest));
        Assert.Equal(query.Shown([]), query.Latest.Shown([]));

        // What the replica does not have yet, the source itself has.
        copy.Execute("DROP TABLE a");
        Assert.Equal("changed", await NamesAsync(query));

        await using var alone = TestDatabase
            .EngineOf(engine)
            .Open(
                new SourceSettings(engine, database.Connection, "the register", "/", TimeSpan.FromSeconds(3))
                {
                    Replica = database.Connection.Replace(
                        database.Server.Port.ToString(System.Globalization.CultureInfo.InvariantCulture),
                        "1"
                    ),
                }
            );
        await alone.DescribeAsync(CancellationToken.None);
        for (var i = 0; i < 20; i++)
            Assert.Equal("changed", await NamesAsync(alone.Prepare(Names("a"))));
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task An_ID_that_no_index_leads_to_is_a_finding_with_its_cost(string engine)
    {
        using var database = new TestDatabase(engine);
        database.Execute(
            "CREATE TABLE big (id integer PRIMARY KEY, code varchar(20), kind varchar(20)); CREATE TABLE "
                + "small (id integer PRIMARY KEY, code varchar(20));"
        );
        database.Execute(
            engine switch
            {
                "postgresql" => "INSERT INTO big SELECT n, 'C-' || n, 'x' FROM generate_series(1, 20000) AS n; ANALYZE big",
                "mariadb" => "INSERT INTO big SELECT seq, concat('C-', seq), 'x' FROM seq_1_to_20000; ANALYZE TABLE big",
                _ => "INSERT INTO big WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c WHERE n < "
                    + "20000) SELECT n, 'C-' || n, 'x' FROM c; ANALYZE",
            }
        );
        database.Execute("INSERT INTO small VALUES (1, 'a')");
        await using var served = new ServedApp(
            Path.Combine(database.Folder, "app.yaml"),
            _ => database.Connection,
            TestDatabase.EngineOf(engine)
        );
        var app = $$"""
            app: Test
            sources: { s: { engine: {{engine}}, connection: "${DATABASE}" } }
            records: { big: { from: s.big }, small: { from: s.small } }
            pages:
              bigs: { path: /bigs, list: big }
              big: { path: "/bigs/{id}", detail: big }
              code: { path: "/codes/{code}", detail: big, by: { code: code } }
              small: { path: "/smalls/{code}", detail: small, by: { code: code } }
            """;
        var slow = Assert.Single((await served.CompileAsync(app)).Findings, finding => finding.Code.Id == "JX422");
        Assert.Matches(
            @"^No index of big begins with code: each visit reads all of its rows, about (1\d|2\d),\d{3}\.$",
            slow.Message
        );
        database.Execute("CREATE INDEX big_code ON big (code)");
        Assert.DoesNotContain((await served.CompileAsync(app)).Findings, finding => finding.Code.Id == "JX422");
    }
}
