using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Compiler;
using Jexa.Core.Edits;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.State;
using Jexa.Sources.Sqlite;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>A clock that shows the time it is set to.</summary>
internal sealed class HandClock(DateTimeOffset now) : TimeProvider
{
    public DateTimeOffset Now { get; set; } = now;

    public override DateTimeOffset GetUtcNow() => Now;
}

/// <summary>
/// What only a clock or an interruption shows: forms that are too old, intents that their process left behind, sources without
/// our table. The log is the service's own, over files.
/// </summary>
public sealed class EditVisitTests : IAsyncDisposable
{
    private const string Schema =
        "CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL); INSERT INTO thing VALUES (1, 'one'), (2, 'two');";

    private readonly HandClock _clock = new(new DateTimeOffset(2030, 1, 1, 12, 0, 0, TimeSpan.Zero));
    private readonly TestApp _app = new(Schema);
    private readonly SourceRegistry _sources = new([new SqliteEngine()]);
    private readonly ChangeStore _store;
    private readonly FormSeal _seal = new(new EphemeralDataProtectionProvider());
    private readonly VisitRunner _runner;

    public EditVisitTests()
    {
        _store = new ChangeStore(Log, "this", _clock);
        _runner = new VisitRunner(
            _clock,
            new ListCursor(new byte[32]),
            new RuntimeFindings(),
            new EditServices(_store, _seal, new byte[32])
        );
    }

    private string Log => Path.Combine(_app.Folder, "changes.db");

    public async ValueTask DisposeAsync()
    {
        _store.Dispose();
        await _sources.DisposeAsync();
        await _app.DisposeAsync();
    }

    private static string App(string writing = "noted") =>
        $$"""
            app: Things
            sources: { s: { engine: sqlite, connection: register.db, writing: {{writing}} } }
            records: { thing: { from: s.thing, label: name } }
            pages:
              things: { path: /things, list: thing }
              thing: { path: "/things/{id}", detail: thing }
              thing-edit: { path: "/things/{id}/edit", edit: thing }
              thing-new: { path: /things/new, new: thing }
            """;

    private async Task<Site> SiteAsync(string app)
    {
        var compilation = await new SiteCompiler(_sources, _ => null, Mount.Root).CompileAsync(
            Path.Combine(_app.Folder, "app.yaml"),
            Encoding.UTF8.GetBytes(app),
            CancellationToken.None
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        return compilation.Site;
    }

    private async Task<(Outcome Outcome, int Status, Core.Views.FormView? Form, string? Location)> VisitAsync(
        Site site,
        string method,
        string target,
        string body = ""
    )
    {
        var trace = new VisitTrace(method, target, _clock);
        var request = new VisitRequest(method, RequestTarget.Read(target), Reader.Person, Principal.Anonymous.Value)
        {
            Visitor = "0123456789abcdef0123456789abcdef",
            Sent = method == "GET" ? SentForm.None : SentForm.OfForm(Encoding.ASCII.GetBytes(body)),
        };
        using var answer = await _runner.RunAsync(site, request, trace, CancellationToken.None);
        return (answer.Outcome, answer.Status, answer.View as Core.Views.FormView, answer.Location);
    }

    private static string Body(string contract, string name) => $"_jexa={Uri.EscapeDataString(contract)}&name={name}&_jexa.end=1";

    private string? Ask(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={_app.Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar()?.ToString();
    }

    [Fact]
    public async Task A_form_that_was_open_for_too_long_is_shown_again_with_what_was_typed()
    {
        var site = await SiteAsync(App());
        var form = (await VisitAsync(site, "GET", "/things/1/edit")).Form!;
        _clock.Now += TimeSpan.FromHours(25);
        var late = await VisitAsync(site, "POST", "/things/1/edit", Body(form.Contract, "late"));
        Assert.Equal(("invalid", 422, "late"), (late.Outcome.Word, late.Status, late.Form!.Inputs[0].Text));
        Assert.Contains("open for too long", late.Form.Notice);
        Assert.Equal("one", Ask("SELECT name FROM thing WHERE id = 1"));
        Assert.Equal(303, (await VisitAsync(site, "POST", "/things/1/edit", Body(late.Form.Contract, "late"))).Status);
        Assert.Equal("late", Ask("SELECT name FROM thing WHERE id = 1"));
    }

    [Theory]
    [InlineData("'1'", "made")]
    [InlineData("NULL", "dropped")]
    [InlineData("", "dropped")]
    public async Task An_intent_left_behind_is_decided_by_the_source_s_own_note(string note, string end)
    {
        var site = await SiteAsync(App());
        var token = FormContract.NewToken();
        Assert.True(_store.TryIntend(Intent(token, noted: true)));
        if (note.Length > 0)
            Do(
                "CREATE TABLE IF NOT EXISTS jexa_commit (token TEXT NOT NULL PRIMARY KEY, key TEXT) WITHOUT "
                    + $"ROWID; INSERT INTO jexa_commit VALUES ('{token}', {note})"
            );
        await KeepAsync(site);
        Assert.Equal(ChangeState.Intended, _store.Find(token)!.State);

        // Only once its lease is over may anybody else decide.
        _clock.Now += ChangeStore.Lease + TimeSpan.FromSeconds(1);
        await KeepAsync(site);
        if (end == "made")
        {
            Assert.Equal(ChangeState.Made, _store.Find(token)!.State);
        }
        else
        {
            Assert.Null(_store.Find(token));

            // Should the process be alive after all, its transaction can no longer commit under this token.
            Assert.Equal("1", Ask($"SELECT count(*) FROM jexa_commit WHERE token = '{token}' AND key IS NULL"));
        }
    }

    [Fact]
    public async Task Where_the_source_keeps_no_note_a_change_left_behind_is_undetermined_and_a_finding_says_so_beforehand()
    {
        var site = await SiteAsync(App("bare"));
        Assert.Contains(site.Findings, finding => finding.Code.Id == "JX420");
        var form = (await VisitAsync(site, "GET", "/things/1/edit")).Form!;
        Assert.Equal(303, (await VisitAsync(site, "POST", "/things/1/edit", Body(form.Contract, "bare"))).Status);
        Assert.Equal("0", Ask("SELECT count(*) FROM sqlite_schema WHERE name = 'jexa_commit'"));
        var token = FormContract.NewToken();
        Assert.True(_store.TryIntend(Intent(token, noted: false)));
        _clock.Now += ChangeStore.Lease + TimeSpan.FromSeconds(1);
        await KeepAsync(site);
        Assert.Equal(ChangeState.Undetermined, _store.Find(token)!.State);
        Assert.Equal(
            [token],
            _store.Read(new ChangeQuestion(State: ChangeState.Undetermined)).Select(change => change.What.Token)
        );
    }

    [Fact]
    public async Task An_intent_of_a_dead_process_does_not_stop_the_same_form_from_being_saved()
    {
        var site = await SiteAsync(App());
        var form = (await VisitAsync(site, "GET", "/things/2/edit")).Form!;
        var token = FormContract.Open(_seal, form.Contract)!.Token;
        Assert.True(_store.TryIntend(Intent(token, noted: true)));
        Assert.Equal(
            (303, "/things/2"),
            (await VisitAsync(site, "POST", "/things/2/edit", Body(form.Contract, "second"))) is var saved
                ? (saved.Status, saved.Location)
                : default
        );
        Assert.Equal("second", Ask("SELECT name FROM thing WHERE id = 2"));
        var change = _store.Find(token)!;
        Assert.Equal((ChangeState.Made, "name"), (change.State, Assert.Single(change.What.Fields).Field));

        // One that was made, but whose process ended before it could say so, is not made again.
        var other = (await VisitAsync(site, "GET", "/things/2/edit")).Form!;
        token = FormContract.Open(_seal, other.Contract)!.Token;
        Assert.True(_store.TryIntend(Intent(token, noted: true)));
        Do($"INSERT INTO jexa_commit VALUES ('{token}', '2')");
        Assert.Equal(503, (await VisitAsync(site, "POST", "/things/2/edit", Body(other.Contract, "third"))).Status);
        Assert.Equal("second", Ask("SELECT name FROM thing WHERE id = 2"));
    }

    [Fact]
    public async Task Notes_that_nobody_needs_any_more_are_taken_away()
    {
        var site = await SiteAsync(App());
        var form = (await VisitAsync(site, "GET", "/things/1/edit")).Form!;
        Assert.Equal(303, (await VisitAsync(site, "POST", "/things/1/edit", Body(form.Contract, "noted"))).Status);
        Assert.Equal("1", Ask("SELECT count(*) FROM jexa_commit"));
        await KeepAsync(site);
        Assert.Equal("1", Ask("SELECT count(*) FROM jexa_commit"));
        _clock.Now += TimeSpan.FromHours(49);
        await KeepAsync(site);
        Assert.Equal("0", Ask("SELECT count(*) FROM jexa_commit"));
        Assert.Equal(ChangeState.Made, Assert.Single(_store.Read(new ChangeQuestion())).State);
    }

    [Fact]
    public void A_log_of_the_first_version_is_brought_up_to_date_and_one_of_a_later_version_is_refused()
    {
        Assert.True(_store.TryIntend(Intent("t", noted: true)));
        _store.Confirm("t");
        _store.Dispose();
        Change(
            "DROP TABLE about; DROP TABLE stray_note; DROP INDEX change_by_age; DROP INDEX "
                + "change_unforgotten; ALTER TABLE change DROP COLUMN forgotten; PRAGMA user_version=1"
        );
        using (var migrated = new ChangeStore(Log, "this", _clock))
            Assert.Equal(ChangeState.Made, migrated.Find("t")!.State);
        Change("PRAGMA user_version=99");
        var refused = Assert.ThrowsAny<IOException>(() => new ChangeStore(Log, "this", _clock));
        Assert.Contains("later version", refused.Message);
    }

    private static ChangeIntent Intent(string token, bool noted) =>
        new(
            token,
            "digest",
            "thing-edit",
            "s",
            "thing",
            """{"id":1}""",
            "1",
            ChangeKind.Changed,
            [],
            "/things/1",
            noted,
            [],
            null
        );

    private async Task KeepAsync(Site site)
    {
        // One round is made at once; the keeper ends when it is disposed.
        await using var keeper = new ChangeKeeper(_store, () => site, null, _clock, Serilog.Core.Logger.None);
        await Task.Delay(300);
    }

    private void Do(string sql) => _app.Execute(sql);

    private void Change(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Log};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
