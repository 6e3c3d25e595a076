using Jexa.Sources.Tests.Conformance;

namespace Jexa.Sources.Tests;

/// <summary>Keys of bytes (hashes) in addresses, over each engine that has them.</summary>
public sealed class BinaryKeyTests
{
    private const string Hash = "00ff10ab9f86d081884c7d659a2feaa0c55ad015";

    [Theory]
    [InlineData("sqlite", "BLOB", "x'{0}'")]
    [InlineData("postgresql", "BYTEA", "'\\x{0}'")]
    [InlineData("mariadb", "BINARY(20)", "x'{0}'")]
    public async Task A_record_is_found_linked_and_referred_to_by_its_bytes(string engine, string type, string literal)
    {
        using var database = new TestDatabase(engine);
        var other = new string('a', 40);
        string Value(string hash) => literal.Replace("{0}", hash);
        database.Execute(
            $"""
            CREATE TABLE node (hash {type} NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
            CREATE TABLE edge (id INTEGER NOT NULL PRIMARY KEY, target {type} NOT NULL, FOREIGN KEY (target) REFERENCES node (hash));
            INSERT INTO node VALUES ({Value(Hash)}, 'First'), ({Value(other)}, 'Second');
            INSERT INTO edge VALUES (1, {Value(Hash)}), (2, {Value(other)});
            """
        );
        await using var served = new ServedApp(
            Path.Combine(database.Folder, "app.yaml"),
            _ => database.Connection,
            TestDatabase.EngineOf(engine)
        );
        var site = await served.SiteAsync(
            $$"""
            app: A
            sources: { s: { engine: {{engine}}, connection: "${DB}" } }
            records: { node: { from: s.node, label: name }, edge: { from: s.edge, label: "Edge {id}" } }
            pages:
              nodes: { path: /nodes, list: node, show: [name] }
              node: { path: "/nodes/{hash}", detail: node, related: [edge] }
              edges: { path: "/edges{?target}", list: edge, show: [target, id], order: [id] }
              edge: { path: "/edges/{id}", detail: edge, forms: [edit] }
            """
        );
        Assert.Equal($"{Hash} | First", await served.VisitAsync(site, $"/nodes/{Hash}"));
        Assert.Equal($"not-canonical 301 /nodes/{Hash}", await served.VisitAsync(site, $"/nodes/{Hash.ToUpperInvariant()}"));
        Assert.Equal("unknown 404", await served.VisitAsync(site, $"/nodes/{Hash[..38]}16"));
        Assert.Equal("unknown 404", await served.VisitAsync(site, $"/nodes/{Hash[..38]}"));
        foreach (var bad in new[] { "0", "0x00ff", "zz", new string('0', 130), "%00ff" })
            Assert.StartsWith("malformed 400", await served.VisitAsync(site, $"/nodes/{bad}"), StringComparison.Ordinal);
        Assert.Equal("First Second", await served.VisitAsync(site, "/edges"));
        Assert.Equal("Second", await served.VisitAsync(site, $"/edges?target={other}"));
        Assert.Equal("1 | First", await served.VisitAsync(site, "/edges/1"));
    }
}
