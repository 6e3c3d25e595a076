using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Sources.MariaDb;
using Jexa.Sources.Postgres;
using Jexa.Sources.Sqlite;

namespace Jexa.Sources.Tests.Conformance;

/// <summary>What only one kind of server has, as an app meets it.</summary>
public sealed class PeculiarTests
{
    /// <summary>An app over one database: compiled, and visited.</summary>
    private sealed class Served(TestDatabase database) : IAsyncDisposable
    {
        private readonly SourceRegistry _sources = new([new SqliteEngine(), new PostgresEngine(), new MariaDbEngine()]);
        private readonly VisitRunner _runner = new(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings());

        public Site Site { get; private set; } = null!;

        public async Task<Compilation> CompileAsync(string recordsAndPages)
        {
            var app = $"app: Test\nsources: {{ s: {{ engine: {database.Engine}, connection: \"${{DATABASE}}\" }} }}\n{recordsAndPages}";
            var compilation = await new SiteCompiler(_sources, name => name == "DATABASE" ? database.Connection : null, Mount.Root).CompileAsync("app.yaml", Encoding.UTF8.GetBytes(app), CancellationToken.None);
            if (compilation.Site is { } site) Site = site;
            return compilation;
        }

        public async Task<string> VisitAsync(string target)
        {
            var trace = new VisitTrace("GET", target, TimeProvider.System);
            using var answer = await _runner.RunAsync(Site, new VisitRequest("GET", RequestTarget.Read(target), false, Principal.Anonymous.Value), trace, CancellationToken.None);
            if (answer.View is ListView list) return Valley.Names(list.Shape, list.Rows);
            if (answer.View is not DetailView detail) return answer.Location is null ? $"{answer.Outcome} {answer.Status} {trace.Why}" : $"{answer.Outcome} {answer.Status} {answer.Location}";
            using var text = new Utf8Buffer();
            return string.Join(" | ", detail.Shape.Fields.Select(column =>
            {
                text.Truncate(0);
                column.WriteText(detail.Record, text);
                return text.ToString();
            }));
        }

        public ValueTask DisposeAsync() => _sources.DisposeAsync();
    }

    private static async Task<Served> ServeAsync(TestDatabase database, string recordsAndPages)
    {
        var served = new Served(database);
        var compilation = await served.CompileAsync(recordsAndPages);
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        return served;
    }

    [Fact]
    public async Task PostgreSQL_has_schemas_enums_domains_padded_texts_arrays_and_names_in_quotes()
    {
        using var database = new TestDatabase("postgresql");
        database.Execute("""
            CREATE SCHEMA "Other Place";
            CREATE TYPE mood AS ENUM ('sad', 'ok', 'happy');
            CREATE DOMAIN grade AS integer CHECK (VALUE BETWEEN 1 AND 5);
            CREATE TABLE "Odd Table" ("Key" char(6) PRIMARY KEY, "select" text, feeling mood NOT NULL DEFAULT 'ok', mark grade, tags text[], more jsonb, raw bytea, twice integer GENERATED ALWAYS AS (length("select") * 2) STORED,
              at_zone timestamptz, far date, wide numeric, made timestamp DEFAULT now());
            INSERT INTO "Odd Table" VALUES ('AB', 'one', 'happy', 3, ARRAY['x', 'y z'], '{"a": 1}', '\x0102', DEFAULT, '2024-07-01 12:00:00+02', 'infinity', 123456789012345678901234567890.123, '2024-01-01'),
              ('CD', 'two', 'sad', NULL, NULL, NULL, NULL, DEFAULT, NULL, '0044-03-15 BC', 'NaN', NULL), ('ABCDEF', 'three', 'ok', 1, NULL, NULL, NULL, DEFAULT, NULL, NULL, NULL, NULL);
            CREATE TABLE "Other Place".leaf (id bigserial PRIMARY KEY, odd char(6) REFERENCES "Odd Table" ("Key"));
            INSERT INTO "Other Place".leaf (odd) VALUES ('AB'), ('AB');
            CREATE TABLE reading (at date NOT NULL, id integer NOT NULL, PRIMARY KEY (at, id)) PARTITION BY RANGE (at);
            CREATE TABLE reading_2024 PARTITION OF reading FOR VALUES FROM ('2024-01-01') TO ('2025-01-01');
            INSERT INTO reading VALUES ('2024-02-03', 7);
            """);
        await using var served = await ServeAsync(database, """
            records:
              odd: { from: "s.Odd Table", label: "{Key}" }
              leaf: { from: "s.Other Place.leaf" }
              reading: { from: s.reading }
            pages:
              odds: { path: "/odds{?feeling}", list: odd, show: [Key, feeling], where: { feeling: "{feeling}" }, order: [feeling], size: 1 }
              odd: { path: "/odds/{id}", detail: odd, show: [Key, select, feeling, mark, tags, more, twice, at_zone, far, wide, made, raw] }
              leaf: { path: "/leaves/{id}", detail: leaf, show: [id, odd.select] }
              reading: { path: "/readings/{at}/{id}", detail: reading }
            """);
        Assert.Equal("AB | one | happy | 3 | {x,\"y z\"} | {\"a\": 1} | 6 | 1 July 2024, 10:00 | infinity | 123456789012345678901234567890.123 | 1 January 2024, 00:00 | 2 bytes", await served.VisitAsync("/odds/AB"));
        Assert.StartsWith("CD | two | sad", await served.VisitAsync("/odds/CD"));
        Assert.Contains("unknown 404", await served.VisitAsync("/odds/AB%20"));
        Assert.Contains("unknown 404", await served.VisitAsync("/odds/ab"));
        Assert.Equal("CD", await served.VisitAsync("/odds?feeling=sad"));
        Assert.Equal("", await served.VisitAsync("/odds?feeling=angry"));
        Assert.Equal("1 | one", await served.VisitAsync("/leaves/1"));
        Assert.Equal("3 February 2024 | 7", await served.VisitAsync("/readings/2024-02-03/7"));
        Assert.Contains("unknown", await served.VisitAsync("/readings/2025-02-03/7"));
    }

    [Fact]
    public async Task MariaDB_has_unsigned_keys_enums_loose_collations_and_dates_that_are_none()
    {
        using var database = new TestDatabase("mariadb");
        database.Execute("""
            SET SESSION sql_mode = '';
            CREATE TABLE big (id bigint unsigned AUTO_INCREMENT PRIMARY KEY, name varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci NOT NULL UNIQUE, feeling enum('sad', 'it''s ok') NOT NULL, tags set('a', 'b'), flag tinyint(1), few tinyint,
              none date, at timestamp(3) NULL, price decimal(65, 30), code char(36), raw varbinary(16), latin varchar(20) CHARACTER SET latin1 COLLATE latin1_swedish_ci);
            INSERT INTO big VALUES (18446744073709551615, 'Café', 'it''s ok', 'a,b', 1, 5, '0000-00-00', '2024-07-01 12:00:00.250', 1.000000000000000000000000000001, '0190a5f0-7c1e-7b5a-8c39-0123456789ab', x'0190a5f07c1e7b5a8c390123456789ab', 'é'),
              (1, '12', 'sad', '', 2, -5, NULL, NULL, NULL, NULL, NULL, NULL), (2, 'blank ', 'sad', NULL, NULL, NULL, '2024-02-29', NULL, NULL, NULL, NULL, NULL);
            CREATE TABLE small (id integer PRIMARY KEY, big_id bigint unsigned, FOREIGN KEY (big_id) REFERENCES big (id));
            INSERT INTO small VALUES (1, 18446744073709551615), (2, 1);
            """);
        await using var served = await ServeAsync(database, """
            records:
              big: { from: s.big, label: name }
              small: { from: s.small, label: "Small {id}" }
              raw: { from: s.big, key: raw, unique: assumed, fields: { raw: { type: uuid } } }
            pages:
              bigs: { path: "/bigs", list: big, show: [name], order: [name] }
              big: { path: "/bigs/{id}", detail: big, show: [id, name, feeling, tags, flag, few, none, at, price, latin], links: [] }
              by-name: { path: "/names/{name}", detail: big, by: { name: name }, show: [id] }
              small: { path: "/smalls/{id}", detail: small, show: [big_id, big_id.name] }
              raw: { path: "/raws/{raw}", detail: raw, show: [name] }
            """);
        Assert.Equal("18446744073709551615 | Café | it's ok | a,b | Yes | 5 | 0000-00-00 | 1 July 2024, 12:00 | 1.000000000000000000000000000001 | é", await served.VisitAsync("/bigs/18446744073709551615"));
        Assert.Contains("unknown 404", await served.VisitAsync("/bigs/18446744073709551616"));
        Assert.Contains("malformed 400", await served.VisitAsync("/bigs/1.5"));
        Assert.Equal("18446744073709551615", await served.VisitAsync("/names/Caf%C3%A9"));
        Assert.Contains("301 /names/Caf%C3%A9", await served.VisitAsync("/names/caf%C3%A9"));
        Assert.Contains("unknown", await served.VisitAsync("/names/Cafe"));
        Assert.Contains("unknown", await served.VisitAsync("/names/blank"));
        Assert.Equal("2", await served.VisitAsync("/names/blank%20"));
        Assert.Contains("unknown", await served.VisitAsync("/names/0"));
        Assert.Contains("unknown", await served.VisitAsync("/names/12abc"));
        Assert.Equal("1", await served.VisitAsync("/names/12"));
        Assert.Contains("Café", await served.VisitAsync("/smalls/1"));
        Assert.Equal("Café", await served.VisitAsync("/raws/0190a5f0-7c1e-7b5a-8c39-0123456789ab"));
    }
}
