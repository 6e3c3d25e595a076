using System.Diagnostics;
using System.Text;
using CsCheck;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sqlite;

namespace Jexa.Sources.Tests;

public class QueryTests
{
    private static ISource Open(TestApp app, double seconds = 5) =>
        new SqliteEngine().Open(new SourceSettings("sqlite", "register.db", "FILE", app.Folder, TimeSpan.FromSeconds(seconds)));

    private static RecordQuery All(string table, params (string Name, FieldType Type)[] columns) =>
        new(
            RecordRows.Whole(RowOrigin.Of(table)),
            [],
            [.. columns.Select(c => new Projection(ColumnRef.Own(c.Name), c.Type))],
            [],
            null,
            [],
            100
        );

    [Fact]
    public async Task Values_are_read_by_their_storage_class_and_refined_by_the_fields_type()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (x);
            INSERT INTO t VALUES (7), (7.5), ('2024-02-29'), ('nonsense'), (x'0102'), (NULL), (1), ('1.10');
            """
        );
        await using var source = Open(app);
        Assert.Equal("Integer Real Date Text Bytes Null Integer Text", await Kinds(FieldType.Date));
        Assert.Equal("Integer Real Text Text Bytes Null Boolean Text", await Kinds(FieldType.Boolean));
        Assert.Equal("Integer Real Text Text Bytes Null Integer Decimal", await Kinds(FieldType.Decimal));
        Assert.Equal("Integer Real Timestamp Text Bytes Null Integer Text", await Kinds(FieldType.Timestamp));

        async Task<string> Kinds(FieldType type)
        {
            var rows = new RowBlock();
            rows.Reset(1);
            await source.Prepare(All("t", ("x", type))).RunAsync([], rows, CancellationToken.None);
            return string.Join(' ', Enumerable.Range(0, rows.Count).Select(i => rows[i][0].Kind));
        }
    }

    [Fact]
    public async Task Text_is_read_as_UTF8_whatever_the_database_is_encoded_in()
    {
        await using var app = new TestApp(
            "PRAGMA encoding = 'UTF-16le'; CREATE TABLE t (x TEXT); INSERT INTO t VALUES ('løkke 漢😀');"
        );
        await using var source = Open(app);
        var rows = new RowBlock();
        rows.Reset(1);
        await source.Prepare(All("t", ("x", FieldType.Text))).RunAsync([], rows, CancellationToken.None);
        Assert.Equal("løkke 漢😀", rows[0].Text(0));
    }

    [Fact]
    public async Task A_query_that_never_ends_is_stopped_at_its_time_limit()
    {
        await using var app = new TestApp(
            "CREATE VIEW endless AS WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c) SELECT max(n) AS n FROM c;"
        );
        await using var source = Open(app, 0.3);
        var rows = new RowBlock();
        rows.Reset(1);
        var clock = Stopwatch.StartNew();
        var slow = await Assert.ThrowsAsync<SourceException>(async () =>
            await source.Prepare(All("endless", ("n", FieldType.Integer))).RunAsync([], rows, CancellationToken.None)
        );
        Assert.Equal(SourceTrouble.TooSlow, slow.Trouble);
        Assert.InRange(clock.Elapsed.TotalSeconds, 0.25, 4);
    }

    [Fact]
    public async Task A_query_ends_when_its_visitor_leaves()
    {
        await using var app = new TestApp(
            "CREATE VIEW endless AS WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c) SELECT max(n) AS n FROM c;"
        );
        await using var source = Open(app, 30);
        using var leaving = new CancellationTokenSource(TimeSpan.FromSeconds(0.2));
        var rows = new RowBlock();
        rows.Reset(1);
        await Assert.ThrowsAnyAsync<OperationCanceledException>(async () =>
            await source.Prepare(All("endless", ("n", FieldType.Integer))).RunAsync([], rows, leaving.Token)
        );
    }

    [Fact]
    public async Task Read_connections_cannot_write()
    {
        await using var app = new TestApp("CREATE TABLE t (x); CREATE VIEW v AS SELECT x FROM t;");
        await using var source = Open(app);
        await source.DescribeAsync(CancellationToken.None);
        // A name is quoted whatever it holds, so nothing that is put there becomes SQL.
        foreach (var name in new[] { "t\"; DELETE FROM t; --", "t; DROP TABLE t", "\"" })
        {
            var rows = new RowBlock();
            rows.Reset(1);
            var refused = await Assert.ThrowsAsync<SourceException>(async () =>
                await source.Prepare(All(name, ("x", FieldType.Any))).RunAsync([], rows, CancellationToken.None)
            );
            Assert.Equal(SourceTrouble.Failed, refused.Trouble);
        }

        app.Execute("INSERT INTO t VALUES (1)");
    }

    [Fact]
    public async Task A_locked_database_is_too_slow_and_an_unlocked_one_serves_again()
    {
        await using var app = new TestApp("CREATE TABLE t (x); INSERT INTO t VALUES (1);");
        await using var source = Open(app, 0.3);
        var query = source.Prepare(All("t", ("x", FieldType.Any)));
        using (var writer = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={app.Database};Pooling=False"))
        {
            writer.Open();
            using var locking = writer.CreateCommand();
            locking.CommandText = "BEGIN EXCLUSIVE";
            locking.ExecuteNonQuery();
            var rows = new RowBlock();
            rows.Reset(1);
            var busy = await Assert.ThrowsAsync<SourceException>(async () =>
                await query.RunAsync([], rows, CancellationToken.None)
            );
            Assert.Equal(SourceTrouble.TooSlow, busy.Trouble);
        }

        var again = new RowBlock();
        again.Reset(1);
        await query.RunAsync([], again, CancellationToken.None);
        Assert.Equal(1, again.Count);
    }

    [Fact]
    public async Task A_shown_query_gives_the_same_rows_when_it_is_pasted()
    {
        await using var app = new TestApp(
            "CREATE TABLE \"od?d \"\"name\" (\"a?1\" TEXT); INSERT INTO \"od?d \"\"name\" VALUES ('it''s ?1'), ('other');"
        );
        await using var source = Open(app);
        var query = source.Prepare(
            All("od?d \"name", ("a?1", FieldType.Text)) with
            {
                Where = [new Condition.Equal(ColumnRef.Own("a?1"), new Operand.Argument(0, FieldType.Text))],
            }
        );
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={app.Database};Pooling=False");
        connection.Open();
        using var pasted = connection.CreateCommand();
        pasted.CommandText = query.Shown([new TypedValue.Text("it's ?1")]);
        Assert.Equal("it's ?1", pasted.ExecuteScalar());
    }

    /// <summary>
    /// Values as real columns of each affinity hold them: written as any storage class, read back, made an address, matched,
    /// read as a key, and looked up again: the same row or no address at all.
    /// </summary>
    [Theory]
    [InlineData("INTEGER")]
    [InlineData("TEXT")]
    [InlineData("TEXT COLLATE NOCASE")]
    [InlineData("REAL")]
    [InlineData("NUMERIC")]
    [InlineData("BLOB")]
    [InlineData("")]
    public async Task Every_row_of_any_affinity_is_reached_by_its_own_address_or_has_none(string declared)
    {
        await using var app = new TestApp(
            $"CREATE TABLE t (row_no INTEGER PRIMARY KEY, k {declared}); CREATE UNIQUE INDEX t_k ON t (k);"
        );
        Fill(app);
        foreach (var type in new[] { "integer", "text" })
        {
            var site = await app.SiteAsync(
                $$"""
                app: A
                sources: { register: { engine: sqlite, connection: register.db } }
                records: { t: { from: register.t, key: k, fields: { k: { type: {{type}} } } } }
                pages:
                  all: { path: /all, list: t, show: [row_no], order: [row_no] }
                  one: { path: "/one/{k}", detail: t, show: [row_no] }
                """
            );
            var addresses = new Dictionary<string, long>();
            string? next = "/all";
            while (next is not null)
            {
                var (answer, _) = await app.VisitAsync(site, next);
                using (answer)
                {
                    var view = Assert.IsType<Core.Views.ListView>(answer.View);
                    for (var i = 0; i < view.Rows.Count; i++)
                    {
                        using var address = new Utf8Buffer();
                        if (view.Shape.RecordLink!.TryWrite(view.Rows[i], address))
                            addresses.Add(address.ToString(), view.Rows[i][view.Shape.Columns[0].Ordinal].Integer);
                    }

                    next = view.Windows.Next;
                }
            }

            foreach (var (address, row) in addresses)
            {
                var (answer, trace) = await app.VisitAsync(site, address);
                using (answer)
                {
                    Assert.True(
                        answer.View is Core.Views.DetailView,
                        $"{declared} as {type}: {address} → {answer.Outcome}: {trace.Why}"
                    );
                    var view = (Core.Views.DetailView)answer.View;
                    Assert.Equal(row, view.Record[view.Shape.Fields[0].Ordinal].Integer);
                }
            }

            if (declared.StartsWith("TEXT", StringComparison.Ordinal) && type == "text")
                Assert.True(addresses.Count > 200);
            if (declared == "INTEGER" && type == "integer")
                Assert.True(addresses.Count > 100);
        }
    }

    private static void Fill(TestApp app)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={app.Database};Pooling=False");
        connection.Open();
        using var transaction = connection.BeginTransaction();
        using var insert = connection.CreateCommand();
        insert.Transaction = transaction;
        insert.CommandText = "INSERT OR IGNORE INTO t (k) VALUES ($k)";
        var value = insert.Parameters.Add(new Microsoft.Data.Sqlite.SqliteParameter { ParameterName = "$k" });
        foreach (
            var text in Texts()
                .Concat([
                    "7",
                    "007",
                    "7.0",
                    "1e3",
                    " 7",
                    "-0",
                    "+7",
                    "",
                    ".",
                    "..",
                    "...",
                    "new",
                    "%",
                    "%2e",
                    "é",
                    "e\u0301",
                    "😀",
                    "a/b",
                    "A",
                    "a",
                    "a ",
                    "a\0b",
                ])
        )
        {
            value.Value = text;
            insert.ExecuteNonQuery();
        }

        foreach (
            var number in new object[]
            {
                0L,
                1L,
                -1L,
                long.MaxValue,
                long.MinValue,
                1.5,
                -0.0,
                1e300,
                7.0,
                new byte[] { 1, 255 },
                Array.Empty<byte>(),
                DBNull.Value,
                DBNull.Value,
            }
        )
        {
            value.Value = number;
            insert.ExecuteNonQuery();
        }

        for (var i = 0L; i < 150; i++)
        {
            value.Value = i * 7919 * (i % 2 == 0 ? 1 : -1);
            insert.ExecuteNonQuery();
        }

        // Text that is not UTF-8 at all.
        insert.CommandText = "INSERT OR IGNORE INTO t (k) VALUES (CAST($k AS TEXT))";
        value.Value = new byte[] { 0x61, 0xff };
        insert.ExecuteNonQuery();
        transaction.Commit();
    }

    private static List<string> Texts()
    {
        var texts = new List<string>();
        Gen.OneOf(
                Gen.String[Gen.Char["abcXYZ019-._~ /%+?#;&='\"<>:@\\øéß漢\u0301\t\n"], 1, 20],
                Gen.Byte.Array[1, 20].Select(Encoding.UTF8.GetString)
            )
            .Sample(texts.Add, iter: 300, threads: 1, seed: "0000KOIPe036");
        return texts;
    }
}
