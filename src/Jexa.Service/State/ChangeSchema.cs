namespace Jexa.Service.State;

/// <summary>The tables of the change log, with all their versions.</summary>
internal static class ChangeSchema
{
    /// <summary>Each statement brings the database from its number to the next.</summary>
    public static string[] Migrations { get; } =
    [
        """
            CREATE TABLE change (
              number     INTEGER PRIMARY KEY AUTOINCREMENT,
              token      TEXT NOT NULL UNIQUE,
              digest     TEXT NOT NULL,
              at         INTEGER NOT NULL,
              state      INTEGER NOT NULL,
              page       TEXT NOT NULL,
              source     TEXT NOT NULL,
              record     TEXT NOT NULL,
              key        TEXT NOT NULL,
              id         TEXT NOT NULL,
              kind       INTEGER NOT NULL,
              fields     TEXT NOT NULL,
              location   TEXT NOT NULL,
              noted      INTEGER NOT NULL,
              undoes     INTEGER,
              by_whom    TEXT,
              process    TEXT NOT NULL,
              lease      INTEGER NOT NULL
            );
            CREATE INDEX change_by_record ON change (record, id, number);
            CREATE INDEX change_by_undone ON change (undoes) WHERE undoes IS NOT NULL;
            CREATE INDEX change_open ON change (lease) WHERE state = 0;
            CREATE TABLE key_event (
              scope   TEXT NOT NULL,
              key     TEXT NOT NULL,
              change  INTEGER NOT NULL REFERENCES change (number) ON DELETE CASCADE,
              kind    INTEGER NOT NULL,
              to_key  TEXT,
              PRIMARY KEY (scope, key, change)
            ) WITHOUT ROWID;
            """,
        // Notes in a source are removed when they are no longer needed. Each change says whether its own still exists.
        """
            ALTER TABLE change ADD COLUMN forgotten INTEGER NOT NULL DEFAULT 0;
            CREATE INDEX change_unforgotten ON change (forgotten, at) WHERE forgotten = 0;
            """,
        // The state folder that the log belongs to; and notes without a change, with the time when they were first seen.
        """
            CREATE TABLE about (identity TEXT NOT NULL);
            CREATE TABLE stray_note (source TEXT NOT NULL, token TEXT NOT NULL, seen INTEGER NOT NULL, PRIMARY KEY (source,
              token)) WITHOUT ROWID;
            CREATE INDEX change_by_age ON change (at);
            """,
    ];
}
