namespace Jexa.Demo;

/// <summary>The tables of the bridge register.</summary>
internal static class RegisterSchema
{
    public const string Text = """
        CREATE TABLE district (
          slug     TEXT NOT NULL PRIMARY KEY,
          name     TEXT NOT NULL,
          warden   TEXT,
          area_km2 REAL,
          note     TEXT
        );

        CREATE TABLE bridge (
          bridge_id INTEGER PRIMARY KEY,
          code      TEXT NOT NULL UNIQUE COLLATE NOCASE,
          name      TEXT NOT NULL,
          district  TEXT NOT NULL REFERENCES district (slug),
          status    TEXT NOT NULL DEFAULT 'open' CHECK (status IN ('open', 'restricted', 'closed', 'withdrawn')),
          kind      TEXT NOT NULL CHECK (kind IN ('arch', 'beam', 'cable-stayed', 'footbridge', 'suspension', 'swing', 'truss', 'viaduct')),
          river     TEXT NOT NULL,
          opened_on DATE,
          length_m  DECIMAL(7, 1) NOT NULL,
          width_m   REAL,
          carries_t INTEGER,
          lanes     INTEGER NOT NULL,
          toll      BOOLEAN NOT NULL DEFAULT 0,
          photo     TEXT,
          toll_site TEXT,
          story     TEXT,
          note      TEXT,
          added_at  TIMESTAMP,
          changed_at TIMESTAMP
        );

        CREATE INDEX bridge_by_name ON bridge (name, opened_on DESC, bridge_id DESC);
        CREATE INDEX bridge_by_district ON bridge (district);

        CREATE TABLE span (
          bridge_id INTEGER NOT NULL REFERENCES bridge (bridge_id),
          span_no   INTEGER NOT NULL,
          kind      TEXT NOT NULL,
          length_m  DECIMAL(6, 1) NOT NULL,
          height_m  REAL,
          material  TEXT NOT NULL,
          PRIMARY KEY (bridge_id, span_no)
        ) WITHOUT ROWID;

        CREATE TABLE inspector (
          inspector_id UUID NOT NULL PRIMARY KEY,
          name         TEXT NOT NULL,
          grade        TEXT NOT NULL,
          since        DATE NOT NULL,
          phone        TEXT,
          email        TEXT
        );

        CREATE TABLE inspection (
          inspection_id INTEGER PRIMARY KEY,
          bridge_id     INTEGER NOT NULL REFERENCES bridge (bridge_id),
          inspector_id  UUID REFERENCES inspector (inspector_id),
          held_on       DATE NOT NULL,
          verdict       TEXT NOT NULL CHECK (verdict IN ('sound', 'watch', 'repair', 'close')),
          score         INTEGER,
          remark        TEXT
        );

        CREATE INDEX inspection_by_date ON inspection (held_on DESC, inspection_id DESC);
        CREATE INDEX inspection_by_bridge ON inspection (bridge_id);

        CREATE TABLE photo (
          photo_id  INTEGER PRIMARY KEY,
          bridge_id INTEGER NOT NULL REFERENCES bridge (bridge_id) ON DELETE CASCADE,
          file      TEXT NOT NULL,
          caption   TEXT NOT NULL,
          taken_on  DATE
        );

        CREATE INDEX photo_by_bridge ON photo (bridge_id, photo_id);

        -- Water under a bridge, as one hears it from the bank.
        CREATE TABLE recording (
          recording_id INTEGER PRIMARY KEY,
          bridge_id    INTEGER NOT NULL REFERENCES bridge (bridge_id) ON DELETE CASCADE,
          title        TEXT NOT NULL,
          made_on      DATE NOT NULL,
          sound        TEXT,
          levels       TEXT
        );

        CREATE INDEX recording_by_bridge ON recording (bridge_id);

        -- A defect belongs to a span, whose key is two columns. Moments are kept in UTC.
        CREATE TABLE defect (
          defect_id     INTEGER PRIMARY KEY,
          bridge_id     INTEGER NOT NULL,
          span_no       INTEGER NOT NULL,
          inspection_id INTEGER REFERENCES inspection (inspection_id) ON DELETE SET NULL,
          kind          TEXT NOT NULL,
          severity      INTEGER NOT NULL CHECK (severity BETWEEN 1 AND 4),
          reported_at   TIMESTAMP NOT NULL,
          mended_on     DATE,
          FOREIGN KEY (bridge_id, span_no) REFERENCES span (bridge_id, span_no)
        );

        CREATE INDEX defect_by_time ON defect (reported_at DESC, defect_id DESC);
        CREATE INDEX defect_by_span ON defect (bridge_id, span_no);
        CREATE INDEX defect_by_inspection ON defect (inspection_id);

        -- What a check cannot say. Its words are shown to whoever it stops.
        CREATE TRIGGER defect_mended_later BEFORE UPDATE ON defect WHEN new.mended_on < date(new.reported_at)
          BEGIN SELECT RAISE(ABORT, 'Mended on must not be before the day it was reported.'); END;
        CREATE TRIGGER defect_added_mended_later BEFORE INSERT ON defect WHEN new.mended_on < date(new.reported_at)
          BEGIN SELECT RAISE(ABORT, 'Mended on must not be before the day it was reported.'); END;

        -- Cases that good data would never show, one row each; "twin" is there twice.
        CREATE TABLE trial_case (trial TEXT NOT NULL, remark TEXT NOT NULL);
        INSERT INTO trial_case VALUES
          ('calm', 'An ordinary row.'), ('twin', 'The first of two.'), ('twin', 'The second of two.'),
          ('broken', 'not JSON'), ('endless', 'Counts forever.');

        """;

    /// <summary>The tables in an order in which each comes behind those that it refers to.</summary>
    public static IReadOnlyList<string> Tables { get; } =
    ["district", "bridge", "span", "inspector", "inspection", "photo", "recording", "defect"];

    /// <summary>A view that fails for one of its rows and never ends for another, in each engine's own way.</summary>
    public static string Trial(string engine) =>
        $"""
        CREATE VIEW trial AS
          SELECT trial,
                 CASE trial
                   WHEN 'broken' THEN {(engine switch { "postgresql" => "(remark::json)::text", "mariadb" => "(SELECT a.remark FROM trial_case AS a)", _ => "json(remark)" })}
                   WHEN 'endless' THEN {(engine switch
    {
        "postgresql" => "(WITH RECURSIVE c(n) AS (SELECT length(remark) UNION ALL SELECT (n + 1) % 1000000 FROM c) SELECT max(n) FROM c)::text",
        "mariadb" => "(SELECT sum(a.seq * b.seq + length(remark)) FROM seq_1_to_1000000 AS a, seq_1_to_1000000 AS b)",
        _ => "(WITH RECURSIVE c(n) AS (SELECT length(remark) UNION ALL SELECT n + 1 FROM c) SELECT max(n) FROM c)",
    })}
                   ELSE remark
                 END AS remark
          FROM trial_case;
        """;
}
