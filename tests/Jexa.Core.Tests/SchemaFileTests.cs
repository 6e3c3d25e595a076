using System.Text;
using System.Text.Json;
using Jexa.Core.Definitions;
using NJsonSchema;
using YamlDotNet.Serialization;

namespace Jexa.Core.Tests;

/// <summary>The JSON Schema of the app file, held against the reader so that neither can drift from the other.</summary>
public class SchemaFileTests
{
    private static readonly string SchemaText = File.ReadAllText(Repository.File("docs/app-file.schema.json"));

    [Theory]
    // A mapping of the schema, and an app file with a key there that the reader does not know.
    [InlineData("", "nonsense: 1")]
    [InlineData("source", "sources: { s: { nonsense: 1 } }")]
    [InlineData("endpoint", "sources: { s: { engine: http, endpoints: { e: { nonsense: 1 } } } }")]
    [InlineData("record", "records: { r: { nonsense: 1 } }")]
    [InlineData("condition", "records: { r: { visible: { f: { nonsense: 1 } } } }")]
    [InlineData("field", "records: { r: { fields: { f: { nonsense: 1 } } } }")]
    [InlineData("link", "pages: { p: { links: [{ nonsense: 1 }] } }")]
    [InlineData("ids", "pages: { p: { ids: { nonsense: 1 } } }")]
    [InlineData("frame", "frame: { nonsense: 1 }")]
    [InlineData("parameter", "records: { r: { parameters: { p: { nonsense: 1 } } } }")]
    [InlineData("side", "pages: { p: { side: [{ nonsense: 1 }] } }")]
    [InlineData("related", "pages: { p: { related: [{ nonsense: 1 }] } }")]
    [InlineData("page", "pages: { p: { nonsense: 1 } }")]
    public void Each_mapping_has_the_keys_the_reader_knows(string mapping, string text)
    {
        var findings = new FindingList();
        AppFileReader.Read("app.yaml", Encoding.UTF8.GetBytes(text), findings);
        var known = findings.All.Single(finding => finding.Code == FindingCodes.UnknownKey).Expected!.Split(", ");
        using var schema = JsonDocument.Parse(SchemaText);
        var place = mapping.Length == 0 ? schema.RootElement : schema.RootElement.GetProperty("definitions").GetProperty(mapping);
        var listed = place.GetProperty("properties").EnumerateObject().Select(property => property.Name);

        Assert.Equal(known.Order(), listed.Order());
    }

    [Fact]
    public async Task The_demo_is_valid() =>
        Assert.Empty(await FaultsAsync(File.ReadAllText(Repository.File("demo/bridges.yaml"))));

    [Theory]
    [InlineData("list: bridge", "lsit: bridge")]
    [InlineData("engine: sqlite", "engine: sqllite")]
    [InlineData("path: /gallery\n", "path: gallery\n")]
    [InlineData("unique: assumed", "unique: perhaps")]
    [InlineData("status: { not: withdrawn }", "status: { nto: withdrawn }")]
    [InlineData("to: bridge,", "ot: bridge,")]
    [InlineData("app: Alder", "ap: Alder")]
    public async Task What_the_reader_refuses_the_schema_underlines(string good, string bad)
    {
        var demo = File.ReadAllText(Repository.File("demo/bridges.yaml"));
        Assert.Contains(good, demo);
        Assert.NotEmpty(await FaultsAsync(demo.Replace(good, bad)));
    }

    private static async Task<IEnumerable<string>> FaultsAsync(string yaml)
    {
        var tree = new DeserializerBuilder().Build().Deserialize<object>(yaml);
        var json = new SerializerBuilder().JsonCompatible().Build().Serialize(tree);
        return (await JsonSchema.FromJsonAsync(SchemaText)).Validate(json).Select(fault => fault.ToString());
    }
}
