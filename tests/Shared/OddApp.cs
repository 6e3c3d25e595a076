namespace Jexa.Tests;

/// <summary>An app whose names are words of the languages, no identifiers, or the same identifier as another.</summary>
internal static class OddApp
{
    public const string Schema = """
        CREATE TABLE odd (
          "class" INTEGER NOT NULL, "default" TEXT NOT NULL, "Group By" TEXT, "group_by" TEXT, "größe" REAL, "null" TEXT, "1st" INTEGER,
          "Fields" TEXT, "ToString" TEXT, "a-b" TEXT, "a_b" TEXT, "constructor" TEXT, "*/" TEXT, "`${x}`" TEXT,
          PRIMARY KEY ("class", "default"));
        CREATE TABLE plain (
          id INTEGER PRIMARY KEY, name TEXT NOT NULL, made_at TIMESTAMP, data BLOB, ok BOOLEAN NOT NULL DEFAULT 0,
          kind TEXT CHECK (kind IN ('a', 'b')), price DECIMAL(8,2));
        INSERT INTO plain (id, name) VALUES (1, 'x');
        """;

    /// <summary>Rows that hold what makes contracts differ from answers: everything, nothing, the awkward.</summary>
    public const string Rows = """
        INSERT INTO plain VALUES (2, '</script>"\', '2024-02-29 14:30:00', x'00ff', 1, 'a', 12.5), (9007199254740993, 'large', NULL, NULL, 0, 'b', -0.01);
        INSERT INTO odd VALUES (1, 'a/b', 'g', 'h', 0.1, 'null', 7, 'f', 't', 'x', 'y', 'c', '*/', '`${x}`'), (-1, ' ', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
        """;

    public const string Text = """
        app: "Odd */ names `${x}` <b>"
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          odd: { from: s.odd, label: "{default}" }
          plain: { from: s.plain, label: name }
        pages:
          class: { path: /class, list: odd, show: ["class", "Group By", "group_by", "größe", "null", "1st", "Fields", "ToString", "a-b", "a_b", "constructor", "*/", "`${x}`"] }
          new: { path: "/odd/{class}/{default}", detail: odd }
          delete: { path: "/odd/{class}/{default}/delete", delete: odd }
          bridge-edit: { path: "/plain/{service}/edit", edit: plain, by: { service: id } }
          bridgeEdit: { path: "/plain/{cancellation}", detail: plain, by: { cancellation: id } }
          bridge_edit: { path: "/plain{?name,kind*,ok,made}", list: plain, where: { name: "{name}", kind: { one_of: "{kind}" }, ok: "{ok}", made_at: { year: "{made}" } } }
          Page: { path: /page, text: "Hello */" }
          PageParameters: { path: /page-parameters, text: Hello }
          Service: { path: /service, text: Hello }
          constructor: { path: "/plain/add{?kind}", new: plain }
          reading: { path: "/reading/{in}{?for}", text: "{in} {for}" }
        """;
}
