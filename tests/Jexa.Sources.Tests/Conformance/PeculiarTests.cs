namespace Jexa.Sources.Tests.Conformance;

/// <summary>What only one kind of server has, as an app meets it.</summary>
public sealed class PeculiarTests
{
    private static ServedApp Over(TestDatabase database) =>
        new("app.yaml", name => name == "DATABASE" ? database.Connection : null, TestDatabase.EngineOf(database.Engine));

    private static string App(TestDatabase database, string recordsAndPages) =>
        $"app: Test\nsources: {{ s: {{ engine: {database.Engine}, connection: \"${{DATABASE}}\" }} }}\n{recordsAndPages}";

    [Fact]
    public async Task PostgreSQL_has_schemas_enums_domains_padded_texts_arrays_and_names_in_quotes()
    {
        using var database = new TestDatabase("postgresql");
        database.Execute(
            """
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
            """
        );
        await using var served = Over(database);
        var site = await served.SiteAsync(
            App(
                database,
                """
                records:
                  odd: { from: "s.Odd Table", label: "{Key}" }
                  leaf: { from: "s.Other Place.leaf" }
                  reading: { from: s.reading }
                pages:
                  odds: { path: "/odds{?feeling}", list: odd, show: [Key, feeling], where: { feeling: "{feeling}" }, order: [feeling], size: 1 }
                  odd: { path: "/odds/{id}", detail: odd, show: [Key, select, feeling, mark, tags, more, twice, at_zone, far, wide, made, raw] }
                  leaf: { path: "/leaves/{id}", detail: leaf, show: [id, odd.select] }
                  reading: { path: "/readings/{at}/{id}", detail: reading }
                """
            )
        );
        Assert.Equal(
            "AB | one | happy | 3 | {x,\"y z\"} | {\"a\": 1} | 6 | 1 July 2024, 10:00 | infinity | "
                + "123456789012345678901234567890.123 | 1 January 2024, 00:00 | 2 bytes",
            await served.VisitAsync(site, "/odds/AB")
        );
        Assert.StartsWith("CD | two | sad", await served.VisitAsync(site, "/odds/CD"));
        Assert.Contains("unknown 404", await served.VisitAsync(site, "/odds/AB%20"));
        Assert.Contains("unknown 404", await served.VisitAsync(site, "/odds/ab"));
        Assert.Equal("CD", await served.VisitAsync(site, "/odds?feeling=sad"));
        Assert.Equal("", await served.VisitAsync(site, "/odds?feeling=angry"));
        Assert.Equal("1 | one", await served.VisitAsync(site, "/leaves/1"));
        Assert.Equal("3 February 2024 | 7", await served.VisitAsync(site, "/readings/2024-02-03/7"));
        Assert.Contains("unknown", await served.VisitAsync(site, "/readings/2025-02-03/7"));
    }

    [Fact]
    public async Task MariaDB_has_unsigned_keys_enums_loose_collations_and_dates_that_are_none()
    {
        using var database = new TestDatabase("mariadb");
        database.Execute(
            """
            SET SESSION sql_mode = '';
            CREATE TABLE big (id bigint unsigned AUTO_INCREMENT PRIMARY KEY, name varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci NOT NULL UNIQUE, feeling enum('sad', 'it''s ok') NOT NULL, tags set('a', 'b'), flag tinyint(1), few tinyint,
              none date, at timestamp(3) NULL, price decimal(65, 30), code char(36), raw varbinary(16), latin varchar(20) CHARACTER SET latin1 COLLATE latin1_swedish_ci);
            INSERT INTO big VALUES (18446744073709551615, 'Café', 'it''s ok', 'a,b', 1, 5, '0000-00-00', '2024-07-01 12:00:00.250', 1.000000000000000000000000000001, '0190a5f0-7c1e-7b5a-8c39-0123456789ab', x'0190a5f07c1e7b5a8c390123456789ab', 'é'),
              (1, '12', 'sad', '', 2, -5, NULL, NULL, NULL, NULL, NULL, NULL), (2, 'blank ', 'sad', NULL, NULL, NULL, '2024-02-29', NULL, NULL, NULL, NULL, NULL);
            CREATE TABLE small (id integer PRIMARY KEY, big_id bigint unsigned, FOREIGN KEY (big_id) REFERENCES big (id));
            INSERT INTO small VALUES (1, 18446744073709551615), (2, 1);
            """
        );
        await using var served = Over(database);
        var site = await served.SiteAsync(
            App(
                database,
                """
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
                """
            )
        );
        Assert.Equal(
            "18446744073709551615 | Café | it's ok | a,b | Yes | 5 | 0000-00-00 | 1 July 2024, 12:00 | "
                + "1.000000000000000000000000000001 | é",
            await served.VisitAsync(site, "/bigs/18446744073709551615")
        );
        Assert.Contains("unknown 404", await served.VisitAsync(site, "/bigs/18446744073709551616"));
        Assert.Contains("malformed 400", await served.VisitAsync(site, "/bigs/1.5"));
        Assert.Equal("18446744073709551615", await served.VisitAsync(site, "/names/Caf%C3%A9"));
        Assert.Contains("301 /names/Caf%C3%A9", await served.VisitAsync(site, "/names/caf%C3%A9"));
        Assert.Contains("unknown", await served.VisitAsync(site, "/names/Cafe"));
        Assert.Contains("unknown", await served.VisitAsync(site, "/names/blank"));
        Assert.Equal("2", await served.VisitAsync(site, "/names/blank%20"));
        Assert.Contains("unknown", await served.VisitAsync(site, "/names/0"));
        Assert.Contains("unknown", await served.VisitAsync(site, "/names/12abc"));
        Assert.Equal("1", await served.VisitAsync(site, "/names/12"));
        Assert.Contains("Café", await served.VisitAsync(site, "/smalls/1"));
        Assert.Equal("Café", await served.VisitAsync(site, "/raws/0190a5f0-7c1e-7b5a-8c39-0123456789ab"));
    }
}
