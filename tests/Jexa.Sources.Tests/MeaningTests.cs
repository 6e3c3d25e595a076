using System.Globalization;
using System.Text;

namespace Jexa.Sources.Tests;

/// <summary>
/// Fields that are joined must mean the same: over made-up schemas every wrong pairing is found and every right one is silent.
/// </summary>
public sealed class MeaningTests
{
    /// <summary>A column of whole numbers, and what it means: the key of a table; null for a plain number.</summary>
    private sealed record Column(string Table, string Name, string? Means);

    private static (string Schema, List<Column> Columns) Make(Random random)
    {
        var schema = new StringBuilder();
        var columns = new List<Column>();
        var count = random.Next(3, 7);
        for (var i = 0; i < count; i++)
        {
            var table = $"t{i}";

            // Some keys are those of another table: an extension of its rows.
            var before = $"t{random.Next(Math.Max(i, 1))}";
            var extended =
                i > 0 && random.Next(4) == 0 ? columns.First(column => column.Table == before && column.Name == "id") : null;
            columns.Add(new Column(table, "id", extended?.Means ?? table + ".id"));
            var lines = new List<string>
            {
                $"id INTEGER PRIMARY KEY{(extended is null ? "" : $" REFERENCES {extended.Table} (id)")}",
            };
            for (var j = random.Next(4); j > 0; j--)
            {
                var other = $"t{random.Next(i + 1)}";
                var byUnique = random.Next(3) == 0 && columns.Exists(column => column.Table == other && column.Name == "no");
                columns.Add(
                    new Column(
                        table,
                        $"ref{j}",
                        columns.First(column => column.Table == other && column.Name == (byUnique ? "no" : "id")).Means
                    )
                );
                lines.Add($"ref{j} INTEGER NOT NULL REFERENCES {other} ({(byUnique ? "no" : "id")})");
            }

            if (random.Next(2) == 0)
            {
                columns.Add(new Column(table, "no", table + ".no"));
                lines.Add("no INTEGER NOT NULL UNIQUE");
            }

            columns.Add(new Column(table, "age", null));
            lines.Add("age INTEGER NOT NULL");
            schema.Append(CultureInfo.InvariantCulture, $"CREATE TABLE {table} ({string.Join(", ", lines)});\n");
        }

        return (schema.ToString(), columns);
    }

    [Fact]
    public async Task Every_wrong_pairing_of_made_up_schemas_is_found_and_every_right_one_is_silent()
    {
        for (var seed = 1; seed <= 12; seed++)
        {
            var (schema, columns) = Make(new Random(seed));
            await using var app = new TestApp(schema);
            var tables = columns.Select(column => column.Table).Distinct().ToList();
            var keys = columns.Where(column => column.Name is "id" or "no").ToList();
            var text = new StringBuilder("app: A\nsources: { s: { engine: sqlite, connection: register.db } }\nrecords:\n");
            foreach (var table in tables)
                text.Append(CultureInfo.InvariantCulture, $"  {table}: {{ from: s.{table} }}\n");
            text.Append("pages:\n");
            foreach (var key in keys.Where(key => key.Name == "no"))
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"  by-{key.Table}: {{ path: \"/by-{key.Table}/{{no}}\", detail: {key.Table} }}\n"
                );
            var expected = new SortedDictionary<int, string>();
            foreach (var table in tables)
            {
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"  {table}:\n    path: \"/{table}/{{id}}\"\n    detail: {table}\n    links:\n"
                );
                foreach (var from in columns.Where(column => column.Table == table))
                {
                    foreach (var to in keys)
                    {
                        text.Append(
                            CultureInfo.InvariantCulture,
                            $"      - {{ to: {(to.Name == "no" ? "by-" : "")}{to.Table}, with: {{ {to.Name}: {from.Name} }}, "
                                + $"text: \"{from.Name}\" }}\n"
                        );
                        if (from.Means == to.Means)
                            continue;
                        expected[text.ToString().Count(c => c == '\n')] = from.Means is null ? "JX511" : "JX510";
                    }
                }
            }

            var found = new SortedDictionary<int, string>();
            foreach (var finding in (await app.CompileAsync(text.ToString())).Wrong())
                found[finding.At.Line] = finding.Code.Id;
            Assert.True(expected.Count > 10, $"{seed}: only {expected.Count} pairings are wrong.");
            Assert.Equal($"{seed}: {string.Join(", ", expected)}", $"{seed}: {string.Join(", ", found)}");
        }
    }

    private const string Lights = """
        CREATE TABLE region (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
        CREATE TABLE light (id INTEGER PRIMARY KEY, region_id INTEGER NOT NULL REFERENCES region (id), position INTEGER NOT NULL, name TEXT NOT NULL, lamp INTEGER NOT NULL);
        CREATE TABLE lamp (id INTEGER PRIMARY KEY, watts INTEGER NOT NULL);
        """;

    private static string Page(string line, string fields = "") =>
        $$"""
            app: Lights
            sources: { s: { engine: sqlite, connection: register.db } }
            records: { region: { from: s.region, label: name }, light: { from: s.light, label: name{{fields}} }, lamp: { from: s.lamp } }
            pages:
              region: { path: "/regions/{id}", detail: region }
              lamp: { path: "/lamps/{id}", detail: lamp }
              light: { path: "/lights/{id}", detail: light }
              {{line}}
            """;

    [Theory]
    [InlineData(
        "lights: { path: /lights, list: light, links: [ { to: light, column: name, with: { id: region_id } } ] }",
        "JX510",
        "The link fills id of “light” from region_id, which is a region’s id; id of “light” is a light’s id."
    )]
    [InlineData(
        "lights: { path: /lights, list: light, links: [ { to: light, column: name, with: { id: position } } ] }",
        "JX511",
        "The link fills id of “light” from position, which is a plain number; id of “light” is a light’s id."
    )]
    [InlineData(
        "lights: { path: /lights, list: light, links: [ { to: lamp, column: name, with: { id: lamp } } ] }",
        "JX511",
        "The link fills id of “lamp” from lamp, which is a plain number; id of “lamp” is a lamp’s id."
    )]
    [InlineData(
        "one: { path: \"/one/{id}\", detail: region, related: [ { record: light, tied: { id: id } } ] }",
        "JX510",
        "The block of lights is tied by id, which is a region’s id; id of “light” is a light’s id."
    )]
    [InlineData(
        "two: { path: \"/two/{x}\", list: light, where: { region_id: \"{x}\", id: \"{x}\" } }",
        "JX510",
        "The parameter x is compared with region_id, which is a region’s id; id of “light” is a light’s id."
    )]
    [InlineData(
        "lights: { path: /lights, list: light, links: [ { to: region, column: name, with: { id: region_id } } ] }",
        null,
        ""
    )]
    [InlineData(
        "one: { path: \"/one/{id}\", detail: region, related: [ { record: light, tied: { region_id: id } } ] }",
        null,
        ""
    )]
    public async Task A_join_of_unlike_fields_names_both(string line, string? code, string message)
    {
        await using var app = new TestApp(Lights);
        var findings = (await app.CompileAsync(Page(line))).Wrong();
        if (code is null)
            Assert.Empty(findings);
        else
            Assert.Equal((code, message), (Assert.Single(findings).Code.Id, findings[0].Message));
    }

    [Fact]
    public async Task What_a_field_refers_to_can_be_declared()
    {
        await using var app = new TestApp(Lights);
        const string Line = "lights: { path: /lights, list: light, links: [ { to: lamp, column: name, with: { id: lamp } } ] }";
        Assert.Contains("refers_to: lamp", Assert.Single((await app.CompileAsync(Page(Line))).Wrong()).Remedy);
        Assert.Empty((await app.CompileAsync(Page(Line, ", fields: { lamp: { refers_to: lamp } }"))).Wrong());
    }
}
