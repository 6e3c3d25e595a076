using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

/// <summary>A register with districts, bridges, spans and inspections, small enough to be counted by hand.</summary>
internal static class Valley
{
    public const string Schema = """
        PRAGMA foreign_keys = off;
        CREATE TABLE district (slug TEXT NOT NULL PRIMARY KEY COLLATE NOCASE, name TEXT NOT NULL, part_of TEXT REFERENCES district (slug), shut INTEGER NOT NULL DEFAULT 0);
        CREATE TABLE bridge (
          id INTEGER PRIMARY KEY, name TEXT NOT NULL, district TEXT REFERENCES district (slug), kind TEXT NOT NULL, opened_on DATE, length_m REAL,
          price DECIMAL(8,2), seen_at TIMESTAMP, toll BOOLEAN NOT NULL DEFAULT 0, twin INTEGER REFERENCES bridge (id));
        CREATE INDEX bridge_by_opened ON bridge (opened_on, id);
        CREATE TABLE span (bridge INTEGER NOT NULL REFERENCES bridge (id), no INTEGER NOT NULL, note TEXT, PRIMARY KEY (bridge, no)) WITHOUT ROWID;
        CREATE TABLE crack (id INTEGER PRIMARY KEY, bridge INTEGER NOT NULL, no INTEGER NOT NULL, FOREIGN KEY (bridge, no) REFERENCES span (bridge, no));
        INSERT INTO district VALUES ('north', 'North', NULL, 0), ('løkke', 'Løkke', 'north', 0), ('shut', 'Shut Away', NULL, 1), ('round', 'Round', 'round', 0);
        INSERT INTO bridge VALUES
          (1, 'Ash', 'north', 'arch', '2019-12-31', 10.5, 100.10, '2019-12-31 23:30:00', 1, NULL),
          (2, 'Beech', 'north', 'beam', '2020-01-01', 20, 200, '2020-01-01 00:10:00', 0, 1),
          (3, 'Cedar', 'løkke', 'arch', '2020-12-31', 30, NULL, '2020-12-31T23:30:00', 0, NULL),
          (4, 'Dog_Rose', 'løkke', 'arch', '2021-03-05', 40, 0.5, '2021-03-05T12:00:00', 0, 99),
          (5, 'Elm 100%', 'shut', 'swing', NULL, NULL, NULL, NULL, 0, NULL),
          (6, 'Fir', NULL, 'swing', '2021-03-31', 60, 7, NULL, 0, NULL);
        INSERT INTO span VALUES (1, 1, 'first'), (1, 2, NULL), (2, 1, 'only');
        INSERT INTO crack VALUES (1, 1, 2), (2, 1, 2), (3, 2, 1);
        """;

    /// <summary>The app's text, with pages of a test's own.</summary>
    public static string App(string pages, string bridge = "", string top = "") =>
        $$"""
            app: Valley
            {{top}}
            sources: { register: { engine: sqlite, connection: register.db } }
            records:
              district: { from: register.district, label: name, parent: part_of, visible: { shut: 0 } }
              bridge: { from: register.bridge, label: name, parent: district {{bridge}} }
              span: { from: register.span, label: "Span {no}", parent: bridge }
              crack: { from: register.crack, label: "Crack {id}", parent: [bridge, no] }
            pages:
            {{string.Join("\n", pages.Split('\n').Select(line => "  " + line))}}
            """;

    /// <summary>
    /// The first shown column of each row that a list shows, joined by blanks; the outcome where it shows none.
    /// </summary>
    public static async Task<string> ListAsync(this TestApp app, Site site, string target)
    {
        var (answer, _) = await app.VisitAsync(site, target);
        using (answer)
            return answer.View is ListView view ? Names(view.Shape, view.Rows)
                : answer.Location is null ? $"{answer.Outcome} {answer.Status}"
                : $"{answer.Outcome} {answer.Status} {answer.Location}";
    }

    public static string Names(ListShape shape, RowBlock rows)
    {
        var names = new StringBuilder();
        using var text = new Utf8Buffer();
        for (var i = 0; i < rows.Count; i++)
        {
            text.Truncate(0);
            shape.Columns[0].WriteText(rows[i], text);
            names.Append(i == 0 ? "" : " ").Append(text);
        }

        return names.ToString();
    }

    /// <summary>Findings that say that something is wrong: no hints.</summary>
    public static IReadOnlyList<Core.Definitions.Finding> Wrong(this Compilation compilation) =>
        [.. compilation.Findings.Where(IsWrong)];

    public static IReadOnlyList<Core.Definitions.Finding> Wrong(this Site site) => [.. site.Findings.Where(IsWrong)];

    private static bool IsWrong(Core.Definitions.Finding finding) => finding.Code.Severity != Core.Definitions.Severity.Hint;

    public static string Texts(IEnumerable<PlainLink> links) =>
        string.Join(" > ", links.Select(link => $"{link.Text} {link.Address}"));
}
