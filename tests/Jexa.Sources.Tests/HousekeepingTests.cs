using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sqlite;
using Jexa.Sources.Stores;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>What sources leave behind, and for how long.</summary>
public sealed class HousekeepingTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("jexa-test-").FullName;

    private string Database => Path.Combine(_folder, "register.db");

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private SourceSettings Settings(string name) => new("sqlite", name, name, _folder, TimeSpan.FromSeconds(5));

    private void Execute(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private static RecordWrite Rename(string name) =>
        new RecordWrite.Update(
            "bridge",
            [new ColumnValue("bridge_id", new TypedValue.Whole(7))],
            [new ColumnValue("name", new TypedValue.Text(name))]
        );

    private static async Task SaveAsync(ISource source, string name)
    {
        await using var session = await source.BeginWriteAsync(CancellationToken.None);
        await session.WriteAsync(Rename(name), CancellationToken.None);
        await session.CommitAsync();
    }

    private string Name()
    {
        using var connection = new SqliteConnection($"Data Source={Database};Pooling=False;Mode=ReadOnly");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT name FROM bridge WHERE bridge_id = 7";
        return (string)command.ExecuteScalar()!;
    }

    [Theory]
    [InlineData("-wal")]
    [InlineData("-shm")]
    [InlineData("")]
    public async Task A_change_whose_file_is_replaced_before_it_is_committed_is_not_confirmed(string ending)
    {
        Execute(TestApp.Schema);
        Execute("PRAGMA journal_mode = WAL");
        await using var source = new SqliteEngine().Open(Settings("register.db"));
        await SaveAsync(source, "First");
        await using var session = await source.BeginWriteAsync(CancellationToken.None);
        await session.WriteAsync(Rename("Second"), CancellationToken.None);
        File.Move(Database + ending, Database + ".away");
        var refused = await Assert.ThrowsAsync<SourceException>(async () => await session.CommitAsync());
        Assert.Equal(SourceTrouble.Away, refused.Trouble);
    }

    [Fact]
    public async Task An_emptied_journal_stays_while_changes_follow_one_another_and_goes_soon_after()
    {
        Execute(TestApp.Schema);
        var journal = Database + "-journal";
        var source = new SqliteEngine().Open(Settings("register.db"));
        await SaveAsync(source, "One");
        Assert.True(File.Exists(journal));
        await SaveAsync(source, "Two");
        Assert.Equal("Two", Name());
        await Eventually.TrueAsync(() => Task.FromResult(!File.Exists(journal)));
        await SaveAsync(source, "Three");
        Assert.True(File.Exists(journal));
        Execute("UPDATE bridge SET name = 'Elsewhere' WHERE bridge_id = 7");
        await SaveAsync(source, "Four");
        await source.DisposeAsync();
        Assert.False(File.Exists(journal));
        Assert.Equal("Four", Name());
    }

    [Fact]
    public async Task A_write_ahead_log_stays_one()
    {
        Execute("PRAGMA journal_mode = WAL;" + TestApp.Schema);
        await using var source = new SqliteEngine().Open(Settings("register.db"));
        await SaveAsync(source, "One");
        Assert.True(File.Exists(Database + "-wal"));
        Assert.False(File.Exists(Database + "-journal"));
    }

    [Fact]
    public async Task A_source_that_no_site_uses_any_more_is_closed_once_its_visits_have_ended()
    {
        var engine = new CountingEngine();
        var registry = new SourceRegistry([engine]);
        var (kept, old) = (
            registry.Open(Settings("kept") with { Engine = "counting" }),
            registry.Open(Settings("old") with { Engine = "counting" })
        );
        var retiring = registry.RetireAsync([kept], TimeSpan.FromMilliseconds(300), TimeProvider.System);
        Assert.Empty(engine.Closed);
        Assert.NotSame(old, registry.Open(Settings("old") with { Engine = "counting" }));
        await retiring;
        Assert.Equal([old], engine.Closed);
        Assert.Same(kept, registry.Open(Settings("kept") with { Engine = "counting" }));
        await registry.DisposeAsync();
        Assert.Equal(3, engine.Closed.Count);
    }

    [Fact]
    public void What_a_killed_process_left_in_the_temporary_folder_is_taken_away_and_what_is_in_use_is_not()
    {
        string Left(string name)
        {
            var folder = Directory.CreateDirectory(Path.Combine(Path.GetTempPath(), "jexa-store-" + name)).FullName;
            File.WriteAllText(Path.Combine(folder, "in-use"), "");
            File.WriteAllText(Path.Combine(folder, "records.db"), "x");
            return folder;
        }

        var (dead, alive) = (Left($"dead-{Environment.ProcessId}"), Left($"alive-{Environment.ProcessId}"));
        using (new FileStream(Path.Combine(alive, "in-use"), FileMode.Open, FileAccess.ReadWrite, FileShare.None))
        {
            using var own = new StoreFolder();
            Assert.True(Directory.Exists(own.Path));
            Assert.False(Directory.Exists(dead));
            Assert.True(Directory.Exists(alive));
        }

        using var next = new StoreFolder();
        Assert.False(Directory.Exists(alive));
    }

    private sealed class CountingEngine : ISourceEngine
    {
        public List<ISource> Closed { get; } = [];

        public string Name => "counting";

        public ISource Open(SourceSettings settings) =>
            new Source(this, new SqliteEngine().Open(settings with { Connection = settings.Connection + ".db" }));

        private sealed class Source(CountingEngine engine, ISource inner) : ISource
        {
            public int Connections => inner.Connections;

            public ValueTask<Jexa.Core.Schemas.SourceSchema> DescribeAsync(CancellationToken cancellation) =>
                inner.DescribeAsync(cancellation);

            public ValueTask ProbeAsync(CancellationToken cancellation) => inner.ProbeAsync(cancellation);

            public IPreparedQuery Prepare(RecordQuery query) => inner.Prepare(query);

            public IPreparedQuery Prepare(CountQuery query) => inner.Prepare(query);

            public IPreparedQuery Prepare(GroupQuery query) => inner.Prepare(query);

            public IPreparedQuery Prepare(CombinedQuery query) => inner.Prepare(query);

            public ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation) =>
                inner.BeginWriteAsync(cancellation);

            public ValueTask<Jexa.Core.Schemas.QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation) =>
                inner.DescribeQueryAsync(query, cancellation);

            public ValueTask DisposeAsync()
            {
                engine.Closed.Add(this);
                return inner.DisposeAsync();
            }
        }
    }
}
