using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sqlite;

namespace Jexa.Sources.Tests;

public class DescribeTests
{
    private static async Task<SourceSchema> DescribeAsync(string schema)
    {
        await using var app = new TestApp(schema);
        await using var source = new SqliteEngine().Open(
            new SourceSettings("sqlite", "register.db", "FILE", app.Folder, TimeSpan.FromSeconds(5))
        );
        return await source.DescribeAsync(CancellationToken.None);
    }

    [Theory]
    [InlineData("INTEGER", FieldType.Integer)]
    [InlineData("bigint unsigned", FieldType.Integer)]
    [InlineData("VARCHAR(20)", FieldType.Text)]
    [InlineData("text", FieldType.Text)]
    [InlineData("BLOB", FieldType.Bytes)]
    [InlineData("DOUBLE PRECISION", FieldType.Real)]
    [InlineData("DECIMAL(7,1)", FieldType.Decimal)]
    [InlineData("NUMERIC", FieldType.Decimal)]
    [InlineData("BOOLEAN", FieldType.Boolean)]
    [InlineData("DATE", FieldType.Date)]
    [InlineData("DATETIME", FieldType.Timestamp)]
    [InlineData("TIMESTAMP", FieldType.Timestamp)]
    [InlineData("UUID", FieldType.Uuid)]
    [InlineData("", FieldType.Any)]
    [InlineData("SHAPE", FieldType.Any)]
    public async Task A_declared_type_stands_for_a_field_type(string declared, FieldType type)
    {
        var schema = await DescribeAsync($"CREATE TABLE t (x {declared})");
        Assert.Equal(type, schema.Find("t")!.Find("x")!.Type);
        Assert.Equal(declared, schema.Find("t")!.Find("x")!.DeclaredType, ignoreCase: true);
    }

    [Theory]
    [InlineData("CREATE TABLE t (id INTEGER PRIMARY KEY)", true, false)]
    [InlineData("CREATE TABLE t (id integer primary key autoincrement)", true, false)]
    [InlineData("CREATE TABLE t (id INTEGER, PRIMARY KEY (id))", true, false)]
    [InlineData("CREATE TABLE t (id INT PRIMARY KEY)", false, true)]
    [InlineData("CREATE TABLE t (id INTEGER PRIMARY KEY DESC)", false, true)]
    [InlineData("CREATE TABLE t (id INTEGER PRIMARY KEY) WITHOUT ROWID", false, false)]
    [InlineData("CREATE TABLE t (id TEXT PRIMARY KEY)", false, true)]
    [InlineData("CREATE TABLE t (id TEXT NOT NULL PRIMARY KEY)", false, false)]
    public async Task Only_an_INTEGER_PRIMARY_KEY_is_the_row_ID_and_others_may_be_empty(string sql, bool automatic, bool nullable)
    {
        var table = (await DescribeAsync(sql)).Find("t")!;
        Assert.Equal(["id"], table.PrimaryKey);
        Assert.True(table.IsUnique(["id"]));
        Assert.Equal((automatic, nullable), (table.Find("id")!.Automatic, table.Find("id")!.Nullable));
    }

    [Fact]
    public async Task Keys_are_what_the_source_keeps_unique()
    {
        var table = (
            await DescribeAsync(
                """
                CREATE TABLE t (a INTEGER, b TEXT UNIQUE, c TEXT, d TEXT, e TEXT, PRIMARY KEY (c, a));
                CREATE UNIQUE INDEX d_only ON t (d);
                CREATE UNIQUE INDEX some_e ON t (e) WHERE e <> '';
                CREATE UNIQUE INDEX lower_e ON t (lower(e));
                CREATE INDEX plain ON t (e);
                """
            )
        ).Find("t")!;
        Assert.Equal(["c", "a"], table.PrimaryKey);
        Assert.True(table.IsUnique(["a", "c"]));
        Assert.True(table.IsUnique(["b"]));
        Assert.True(table.IsUnique(["d", "e"]));
        Assert.False(table.IsUnique(["a"]));
        Assert.False(table.IsUnique(["e"]));
    }

    [Fact]
    public async Task Foreign_keys_lead_to_named_columns_or_to_the_primary_key()
    {
        var table = (
            await DescribeAsync(
                """
                CREATE TABLE parent (x TEXT, y TEXT, z TEXT UNIQUE, PRIMARY KEY (x, y));
                CREATE TABLE t (a TEXT, b TEXT, c TEXT REFERENCES parent (z), FOREIGN KEY (a, b) REFERENCES parent);
                """
            )
        ).Find("t")!;
        Assert.Contains(table.ForeignKeys, key =>
            key.Columns.SequenceEqual(["c"]) && key.References.SequenceEqual(["z"]) && key.Table == "parent"
        );
        Assert.Contains(table.ForeignKeys, key =>
            key.Columns.SequenceEqual(["a", "b"]) && key.References.SequenceEqual(["x", "y"])
        );
    }

    [Fact]
    public async Task Defaults_computed_columns_collations_and_views_are_seen()
    {
        var schema = await DescribeAsync(
            """
            CREATE TABLE t (id INTEGER PRIMARY KEY, a TEXT NOT NULL DEFAULT 'x', b TEXT COLLATE NOCASE, c TEXT AS (a || b), d TEXT COLLATE RTRIM);
            CREATE VIEW v AS SELECT id, a, a || b AS both FROM t;
            CREATE VIEW broken AS SELECT * FROM nowhere;
            """
        );
        var table = schema.Find("t")!;
        Assert.Equal("'x'", table.Find("a")!.Default);
        Assert.True(table.Find("c")!.Automatic);
        Assert.Equal([false, true, true], new[] { "a", "b", "d" }.Select(name => table.Find(name)!.FoldsCase));
        Assert.Equal(TableKind.View, schema.Find("v")!.Kind);
        Assert.Equal([FieldType.Integer, FieldType.Text, FieldType.Any], schema.Find("v")!.Columns.Select(column => column.Type));
        Assert.Empty(schema.Find("v")!.PrimaryKey);
        Assert.Empty(schema.Find("broken")!.Columns);
    }

    [Fact]
    public async Task A_file_that_is_not_there_is_an_error_and_is_not_created()
    {
        await using var app = new TestApp(null);
        await using var source = new SqliteEngine().Open(
            new SourceSettings("sqlite", "none.db", "FILE", app.Folder, TimeSpan.FromSeconds(5))
        );
        var away = await Assert.ThrowsAsync<SourceException>(async () => await source.DescribeAsync(CancellationToken.None));
        Assert.Equal(SourceTrouble.Away, away.Trouble);
        Assert.Empty(Directory.GetFiles(app.Folder));
        Assert.DoesNotContain(app.Folder, away.Message);
    }

    [Fact]
    public async Task A_file_that_is_no_database_and_a_folder_are_errors()
    {
        await using var app = new TestApp(null);
        File.WriteAllText(app.Database, new string('x', 5000));
        foreach (var connection in new[] { "register.db", "." })
        {
            await using var source = new SqliteEngine().Open(
                new SourceSettings("sqlite", connection, "FILE", app.Folder, TimeSpan.FromSeconds(5))
            );
            var away = await Assert.ThrowsAsync<SourceException>(async () => await source.DescribeAsync(CancellationToken.None));
            Assert.Equal(SourceTrouble.Away, away.Trouble);
        }
    }

    [Fact]
    public async Task Options_cannot_be_smuggled_into_a_connection()
    {
        await using var app = new TestApp();
        await using var source = new SqliteEngine().Open(
            new SourceSettings("sqlite", "other.db;Mode=ReadWriteCreate", "FILE", app.Folder, TimeSpan.FromSeconds(5))
        );
        await Assert.ThrowsAsync<SourceException>(async () => await source.DescribeAsync(CancellationToken.None));
        Assert.Single(Directory.GetFiles(app.Folder));
    }
}
