using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Traces;
using Jexa.Core.Visits;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>A database in a folder of its own, and whatever is compiled over it; gone when disposed.</summary>
public sealed class TestApp : IAsyncDisposable
{
    /// <summary>A small register that most tests start from.</summary>
    public const string Schema = """
        CREATE TABLE district (slug TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, closed INTEGER NOT NULL DEFAULT 0);
        CREATE TABLE bridge (
          bridge_id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE COLLATE NOCASE, name TEXT, district TEXT REFERENCES district (slug),
          status TEXT, opened_on DATE, length_m DECIMAL(7,1), nickname TEXT);
        INSERT INTO district VALUES ('n/w-moor', 'North-West Moor', 0), ('løkke', 'Løkke', 0), ('shut', 'Shut', 1);
        INSERT INTO bridge VALUES
          (7, 'AV-0007', 'Otter Bridge', 'n/w-moor', 'open', '1931-05-04', 42.5, 'Otty'),
          (8, 'AV-0008', 'Sedge Arches', 'løkke', 'withdrawn', NULL, 12, NULL),
          (9, 'AV-0009', NULL, NULL, NULL, 'long ago', 8, NULL),
          (10, 'AV-0010', 'Kiln Span', 'shut', 'open', '2001-01-01', 100.25, 'Kil');
        """;

    public const string App = """
        app: Register
        home: bridges
        sources:
          register: { engine: sqlite, connection: register.db }
        records:
          bridge:
            from: register.bridge
            visible: { status: { not: withdrawn } }
          district:
            from: register.district
            visible: { closed: 0 }
        pages:
          bridges:
            path: /bridges
            list: bridge
            show: [name, code, district, opened_on, length_m]
            order: [name]
            links:
              - { to: bridge, column: name }
          bridge:
            path: /bridges/{id}
            detail: bridge
          districts: { path: /districts, list: district }
          district: { path: "/districts/{district}", detail: district }
          lookup: { path: "/lookup{?code}", detail: bridge, by: { code: code }, linked: elsewhere }
        """;

    private readonly SourceRegistry _sources = new([new SqliteEngine()]);
    private readonly VisitRunner _runner;

    public TestApp(string? schema = Schema)
    {
        Folder = Directory.CreateTempSubdirectory("jexa-test-").FullName;
        _runner = new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), Findings);
        if (schema is not null)
            Execute(schema);
    }

    public string Folder { get; }

    public RuntimeFindings Findings { get; } = new();

    public string Database => Path.Combine(Folder, "register.db");

    public void Execute(string sql, string file = "register.db")
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(Folder, file)};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    public Task<Compilation> CompileAsync(string app = App) =>
        new SiteCompiler(_sources, name => name == "FILE" ? "register.db" : null, Mount.Root).CompileAsync(
            Path.Combine(Folder, "app.yaml"),
            Encoding.UTF8.GetBytes(app),
            CancellationToken.None
        );

    public async Task<Site> SiteAsync(string app = App)
    {
        var compilation = await CompileAsync(app);
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        return compilation.Site;
    }

    /// <summary>Visits a target and says how it ended; the view may be read until the next visit only.</summary>
    public async Task<(Answer Answer, VisitTrace Trace)> VisitAsync(
        Site site,
        string target,
        bool json = false,
        string method = "GET"
    )
    {
        var trace = new VisitTrace(method, target, TimeProvider.System);
        var answer = await _runner.RunAsync(
            site,
            new VisitRequest(
                method,
                RequestTarget.Read(target),
                json ? Reader.Program : Reader.Person,
                Principal.Anonymous.Value
            ),
            trace,
            CancellationToken.None
        );
        return (answer, trace);
    }

    /// <summary>Visits a target with a trace of a log's own, which is still to be added to it.</summary>
    public async Task<VisitTrace> VisitAsync(Site site, string target, VisitLog log)
    {
        var trace = log.Begin("GET", target, TimeProvider.System);
        using var answer = await _runner.RunAsync(
            site,
            new VisitRequest("GET", RequestTarget.Read(target), Reader.Person, Principal.Anonymous.Value),
            trace,
            CancellationToken.None
        );
        return trace;
    }

    public async Task<string> OutcomeAsync(Site site, string target)
    {
        var (answer, _) = await VisitAsync(site, target);
        using (answer)
            return answer.Location is null
                ? $"{answer.Outcome} {answer.Status}"
                : $"{answer.Outcome} {answer.Status} {answer.Location}";
    }

    public async ValueTask DisposeAsync()
    {
        await _sources.DisposeAsync();
        Directory.Delete(Folder, recursive: true);
    }
}
