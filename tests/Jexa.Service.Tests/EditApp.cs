using System.Data.Common;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Jexa.Demo;

namespace Jexa.Service.Tests;

/// <summary>A form as a browser would send it back.</summary>
public sealed record Form(string Action, Dictionary<string, string> Fields, IHtmlDocument Document)
{
    public Form With(params (string Name, string? Value)[] fields)
    {
        var changed = new Dictionary<string, string>(Fields);
        foreach (var (name, value) in fields)
        {
            if (value is null)
                changed.Remove(name);
            else
                changed[name] = value;
        }

        return this with
        {
            Fields = changed,
        };
    }
}

/// <summary>What came back: status, headers, body.</summary>
public sealed record Reply(int Status, HttpResponseHeaders Headers, string Body)
{
    public string? Location => Headers.Location?.OriginalString;

    public JsonElement Json => JsonDocument.Parse(Body).RootElement;

    public IHtmlDocument Html => new HtmlParser().ParseDocument(Body);

    public string Tag => Headers.ETag!.Tag;

    /// <summary>The faults of the fields, or those that problem details name.</summary>
    public string[] Faults =>
        Body.StartsWith('{')
            ?
            [
                .. Json.GetProperty("errors")
                    .EnumerateArray()
                    .Select(error => $"{error.GetProperty("pointer").GetString()} {error.GetProperty("detail").GetString()}"),
            ]
            : [.. Html.QuerySelectorAll(".faults li").Select(item => item.TextContent)];
}

/// <summary>A visitor with a browser's cookies and a browser's headers.</summary>
public sealed class Visitor : IDisposable
{
    private readonly HttpClient _http;
    private readonly string _url;

    public Visitor(string pagesUrl)
    {
        _url = pagesUrl.TrimEnd('/');
        _http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                CookieContainer = Cookies,
                UseProxy = false,
            }
        )
        {
            Timeout = TimeSpan.FromSeconds(60),
        };
    }

    public CookieContainer Cookies { get; } = new();

    public async Task<Reply> SendAsync(
        HttpMethod method,
        string path,
        HttpContent? content = null,
        params (string Name, string Value)[] headers
    )
    {
        using var request = new HttpRequestMessage(
            method,
            new Uri(_url + path, new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true })
        )
        {
            Content = content,
        };
        foreach (var (name, value) in headers)
            request.Headers.TryAddWithoutValidation(name, value);
        using var response = await _http.SendAsync(request);
        return new Reply((int)response.StatusCode, response.Headers, await response.Content.ReadAsStringAsync());
    }

    public Task<Reply> GetAsync(string path, params (string Name, string Value)[] headers) =>
        SendAsync(HttpMethod.Get, path, null, headers);

    public Task<Reply> JsonAsync(string path) => GetAsync(path, ("Accept", "application/json"));

    public Task<Reply> PatchAsync(string path, string json, string? ifMatch, string type = "application/merge-patch+json") =>
        SendAsync(
            HttpMethod.Patch,
            path,
            new StringContent(json, Encoding.UTF8, type),
            ifMatch is null ? [] : [("If-Match", ifMatch)]
        );

    public Task<Reply> AddAsync(string path, string json) =>
        SendAsync(HttpMethod.Post, path, new StringContent(json, Encoding.UTF8, "application/json"));

    /// <summary>The form of a page, its fields as they would be sent.</summary>
    public async Task<Form> FormAsync(string path)
    {
        var reply = await GetAsync(path);
        Assert.True(reply.Status == 200, reply.Body);
        return FormOf(reply);
    }

    public static Form FormOf(Reply reply)
    {
        var document = reply.Html;
        var form = (IHtmlFormElement)document.QuerySelector("form.fill")!;
        var fields = new Dictionary<string, string>();
        foreach (var element in form.QuerySelectorAll("input, select, textarea"))
        {
            switch (element)
            {
                case IHtmlInputElement { Type: "checkbox" or "radio" } box:
                    if (box.IsChecked)
                        fields[box.Name!] = box.Value;
                    break;
                case IHtmlInputElement input:
                    fields[input.Name!] = input.Value;
                    break;
                case IHtmlSelectElement select:
                    fields[select.Name!] = select.Value ?? "";
                    break;
                case IHtmlTextAreaElement area:
                    fields[area.Name!] = area.Value;
                    break;
            }
        }

        return new Form(form.GetAttribute("action")!, fields, document);
    }

    public Task<Reply> PostAsync(Form form, params (string Name, string Value)[] headers) =>
        SendAsync(HttpMethod.Post, form.Action, new FormUrlEncodedContent(form.Fields), headers);

    public void Dispose() => _http.Dispose();
}

/// <summary>A small register that can be changed, with a service over it. Each test class has one of its own.</summary>
public abstract partial class EditApp(string engine) : IAsyncLifetime
{
    public const string Schema = """
        CREATE TABLE district (slug TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL, warden TEXT);
        INSERT INTO district VALUES ('moor', 'The Moor', NULL), ('fen', 'The Fen', 'A Warden'), ('hidden', 'Hidden', 'veiled');
        CREATE TABLE bridge (
          bridge_id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE COLLATE NOCASE, name TEXT NOT NULL, district TEXT NOT NULL REFERENCES district (slug),
          status TEXT NOT NULL DEFAULT 'open' CHECK (status IN ('open', 'closed', 'withdrawn')), length_m DECIMAL(6, 1), toll BOOLEAN NOT NULL DEFAULT 0,
          lit BOOLEAN, opened_on DATE, seen_at TIMESTAMP, note TEXT, pin TEXT, made_at TIMESTAMP, changed_at TIMESTAMP,
          twice REAL GENERATED ALWAYS AS (length_m * 2) VIRTUAL, CHECK (status <> 'closed' OR toll = FALSE));
        INSERT INTO bridge (bridge_id, code, name, district, length_m, opened_on, seen_at, note, pin) VALUES
          (1, 'AV-0001', 'First', 'moor', 12.5, '1931-05-04', '2024-07-01 12:00:00', NULL, 'a-pin-of-its-own'),
          (2, 'AV-0002', 'Second', 'fen', 8, NULL, NULL, 'one' || char(13) || char(10) || 'two', NULL),
          (3, 'AV-0003', 'Third', 'hidden', NULL, NULL, NULL, NULL, NULL);
        INSERT INTO bridge (bridge_id, code, name, district, status) VALUES (4, 'AV-0004', 'Withdrawn', 'moor', 'withdrawn');
        CREATE TABLE span (bridge_id INTEGER NOT NULL REFERENCES bridge (bridge_id), span_no INTEGER NOT NULL, kind TEXT NOT NULL, PRIMARY KEY (bridge_id, span_no));
        INSERT INTO span VALUES (1, 1, 'main'), (1, 2, 'side');
        CREATE TABLE defect (
          defect_id INTEGER PRIMARY KEY, bridge_id INTEGER NOT NULL, span_no INTEGER NOT NULL, severity INTEGER NOT NULL CHECK (severity BETWEEN 1 AND 4), said_by TEXT, version INTEGER,
          FOREIGN KEY (bridge_id, span_no) REFERENCES span (bridge_id, span_no) ON DELETE CASCADE);
        INSERT INTO defect VALUES (1, 1, 1, 3, 'somebody', 1);
        CREATE TRIGGER defect_said BEFORE UPDATE ON defect WHEN new.said_by = 'nobody' BEGIN SELECT RAISE(ABORT, 'Said by must be somebody'); END;
        CREATE TABLE inspector (inspector_id UUID NOT NULL PRIMARY KEY, name TEXT NOT NULL);
        CREATE TABLE town (town_id INTEGER PRIMARY KEY, name TEXT NOT NULL, bridge_id INTEGER REFERENCES bridge (bridge_id));
        """;

    public const string App = """
        app: Register
        home: bridges
        zone: Etc/GMT-1
        sources: { s: { engine: ENGINE, connection: 'CONNECTION' } }
        records:
          district: { from: s.district, label: name, visible: { warden: { not: veiled } } }
          bridge:
            from: s.bridge
            label: name
            visible: { status: { not: withdrawn } }
            fields:
              code: { pattern: "AV-[0-9]{4}", such_as: AV-0001 }
              length_m: { min: 0.5, max: 900 }
              note: { as: long_text, max_length: 50 }
              pin: { secret: true }
              made_at: { kept: created }
              changed_at: { kept: changed }
          span: { from: s.span, label: "Span {span_no}" }
          defect: { from: s.defect, label: "Defect {defect_id}", fields: { bridge_id: { refers_to: bridge }, version: { kept: version } } }
          inspector: { from: s.inspector, label: name }
          town: { from: s.town, label: name }
        pages:
          bridges: { path: /bridges, list: bridge, show: [name, code, district], links: [ { to: bridge, column: name }, { to: bridge-edit, text: Edit } ] }
          bridge: { path: "/bridges/{id}", was: ["/old/{id}"], detail: bridge, show: [name, code, district, length_m, note], links: [ { to: bridge-edit }, { to: span-new, text: Add a span } ] }
          bridge-edit:
            path: /bridges/{id}/edit
            edit: bridge
            form: [name, code, district, status, length_m, toll, lit, opened_on, seen_at, note, pin]
            ids: { missing: bridge-new }
          bridge-new: { path: /bridges/new, new: bridge, form: [name, code, district, length_m, toll, note] }
          bridge-delete: { path: "/bridges/{id}/delete", delete: bridge, show: [name, code] }
          by-code: { path: "/codes{?code}", detail: bridge, by: { code: code } }
          districts: { path: /districts, list: district, add: none }
          district: { path: "/districts/{slug}", detail: district }
          district-edit: { path: "/districts/{slug}/edit", edit: district }
          district-new: { path: /new-district, new: district, then: districts }
          district-delete: { path: "/districts/{slug}/delete", delete: district }
          spans: { path: "/bridges/{bridge}/spans", list: span, where: { bridge_id: "{bridge}" } }
          span: { path: "/bridges/{bridge}/spans/{number}", detail: span, by: { bridge: bridge_id, number: span_no } }
          span-new: { path: "/bridges/{bridge}/spans/new", new: span, form: [span_no, kind] }
          span-delete: { path: "/bridges/{bridge}/spans/{number}/delete", delete: span, by: { bridge: bridge_id, number: span_no } }
          defects: { path: /defects, list: defect }
          defect: { path: "/defects/{id}", detail: defect }
          defect-edit: { path: "/defects/{id}/edit", edit: defect }
          defect-new: { path: "/defects/new{?bridge}", new: defect, form: [bridge_id, span_no, severity] }
          defect-of: { path: "/add-defect{?bridge}", new: defect, required: [bridge], form: [bridge_id, span_no, severity] }
          inspectors: { path: /inspectors, list: inspector }
          inspector: { path: "/inspectors/{id}", detail: inspector }
          inspector-new: { path: /inspectors/new, new: inspector }
          towns: { path: /towns, list: town }
          town: { path: "/towns/{id}", detail: town }
          town-form: { path: /town, new: town }
          town-edit: { path: "/town{?id}", edit: town }
        """;

    private long _lastId = 1000;

    public AppFolder Folder { get; } = new();

    public RunningService Service
    {
        get
        {
            Lacking.Skip(engine);
            return _service!;
        }
    }

    private RunningService? _service;
    private PrivateServer? _server;
    private string _database = "";

    public string Engine => engine;

    /// <summary>
    /// Whether the tests' database is a file, which a loose value can be put into and a test can lock as a whole.
    /// </summary>
    public bool IsFile => engine == "sqlite";

    public async ValueTask InitializeAsync()
    {
        if (!Lacking.Has(engine))
            return;
        _server = engine switch
        {
            "postgresql" => PrivateServer.Postgres.Value,
            "mariadb" => PrivateServer.MariaDb.Value,
            _ => null,
        };
        if (_server is not null)
            _database = _server.NewDatabase();
        Do(SchemaDialect.Translate(Schema, engine).Replace("warden varchar(200)", "warden mediumtext"));
        if (IsFile)
            Do("UPDATE bridge SET opened_on = 'long ago' WHERE bridge_id = 2");
        var connection = _server?.Connection(_database) ?? "data.db";
        _service = await RunningService.StartAsync(
            "serve",
            Folder.Write("app.yaml", App.Replace("ENGINE", engine).Replace("CONNECTION", connection.Replace("'", "''"))),
            "--log",
            "none"
        );
    }

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        _service?.Dispose();
        Folder.Dispose();
        return ValueTask.CompletedTask;
    }

    public Visitor Visit() => new(Service.PagesUrl);

    /// <summary>What the database says itself: truth values as 0 and 1, numbers without zeros that say nothing.</summary>
    public string? Ask(string sql)
    {
        if (_server is not null)
            return _server.Ask(_database, Told(sql));
        using var connection = Folder.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar() switch
        {
            null or DBNull => null,
            var value => Convert.ToString(value, System.Globalization.CultureInfo.InvariantCulture),
        };
    }

    private string Told(string sql)
    {
        var isPostgres = engine == "postgresql";
        var (select, rest) = sql.IndexOf(" FROM ", StringComparison.Ordinal) is var at and >= 0
            ? (sql[..at], sql[at..])
            : (sql, "");
        select = select
            .Replace("typeof(length_m)", "'real'")
            .Replace("group_concat(name)", isPostgres ? "string_agg(name, ',')" : "group_concat(name)")
            .Replace("hex(note)", isPostgres ? "coalesce(upper(encode(convert_to(note, 'UTF8'), 'hex')), '')" : "hex(note)");
        select = LengthColumn()
            .Replace(select, isPostgres ? "trim_scale(length_m)" : "TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM length_m))");
        if (isPostgres)
            select = TruthColumn().Replace(select, "($1::int)");
        return select + rest;
    }

    public void Do(string sql)
    {
        if (_server is not null)
            _server.Execute(_database, sql);
        else
            Folder.MakeDatabase(sql);
    }

    /// <summary>A bridge of the test's own.</summary>
    public long AddBridge(string code, string name = "A bridge", string district = "moor")
    {
        // SQLite gives the number of a deleted row out again: its history would be another's.
        var id = Interlocked.Add(ref _lastId, 10);
        Do($"INSERT INTO bridge (bridge_id, code, name, district, length_m) VALUES ({id}, '{code}', '{name}', '{district}', 10)");
        return id;
    }

    /// <summary>A whole number as a column with one digit behind the point gives it.</summary>
    public string Tenths(string whole) => IsFile ? whole : whole + ".0";

    /// <summary>Keeps a row locked, or a file as a whole, until disposed.</summary>
    public IDisposable Hold(string locking)
    {
        DbConnection connection = _server is null ? Folder.Open() : _server.Open(_database);
        using var command = connection.CreateCommand();
        command.CommandText = _server is null ? "BEGIN IMMEDIATE" : $"BEGIN; {locking}";
        command.ExecuteNonQuery();
        return connection;
    }

    [GeneratedRegex(@"\blength_m\b")]
    private static partial Regex LengthColumn();

    [GeneratedRegex(@"\b(toll|lit)\b")]
    private static partial Regex TruthColumn();
}

public sealed class SqliteEditApp() : EditApp("sqlite");

public sealed class PostgresEditApp() : EditApp("postgresql");

public sealed class MariaDbEditApp() : EditApp("mariadb");
