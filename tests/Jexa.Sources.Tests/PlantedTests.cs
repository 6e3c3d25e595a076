using Jexa.Demo;

namespace Jexa.Sources.Tests;

/// <summary>
/// Each way in which links and IDs go wrong, planted alone into a copy of the demo, and the finding that it must have there. The
/// copy without any has none.
/// </summary>
public sealed class PlantedTests(PlantedTests.Copy copy) : IClassFixture<PlantedTests.Copy>
{
    [Fact]
    public async Task The_copy_without_a_fault_has_no_finding()
    {
        using var demo = copy.Again();
        Assert.Empty(await demo.CheckAsync());
        Assert.Empty(await demo.SweepAsync());
    }

    [Theory]
    [MemberData(nameof(InTheFile))]
    public async Task What_is_planted_into_the_file_is_found_by_the_check(
        string way,
        string good,
        string bad,
        string code,
        string says
    )
    {
        using var demo = copy.Again();
        demo.Change(good, bad);
        var found = await demo.CheckAsync();
        Assert.True(
            found.Any(one => one.StartsWith(code, StringComparison.Ordinal) && one.Contains(says)),
            $"{way}: {Lines(found)}"
        );
        Assert.True(found.All(one => one.StartsWith(code, StringComparison.Ordinal)), $"{way} has one cause: {Lines(found)}");
    }

    [Theory]
    [MemberData(nameof(InTheData))]
    public async Task What_is_planted_into_the_data_is_found_by_the_sweep(
        string way,
        string sql,
        string only,
        string code,
        string about
    )
    {
        using var demo = copy.Again();
        demo.Run(sql);
        Assert.Empty(await demo.CheckAsync());
        var found = await demo.SweepAsync(only.Split(' '));
        Assert.True(found is [var one] && one.StartsWith($"{code} {about}:", StringComparison.Ordinal), $"{way}: {Lines(found)}");
    }

    [Theory]
    [MemberData(nameof(InBoth))]
    public async Task What_only_shows_with_the_data_is_found_by_the_sweep(
        string way,
        string good,
        string bad,
        string only,
        string code,
        string about
    )
    {
        using var demo = copy.Again();
        demo.Change(good, bad);
        var found = await demo.SweepAsync(only.Split(' '));
        Assert.True(
            found.Any(one => one.StartsWith($"{code} {about}:", StringComparison.Ordinal))
                && found.All(one => one.StartsWith(code, StringComparison.Ordinal)),
            $"{way}: {Lines(found)}"
        );
    }

    public static TheoryData<string, string, string, string, string> InTheFile { get; } =
        new()
        {
            {
                "the link's column is not shown",
                "{ to: bridge, column: name }\n    menu: 1",
                "{ to: bridge, column: river }\n    menu: 1",
                "JX507",
                "river"
            },
            {
                "two links on the row",
                "      - { to: bridge, on: row }\n    menu: 2",
                "      - { to: bridge, on: row }\n      - { to: lookup, on: row }\n    menu: 2",
                "JX509",
                "row"
            },
            {
                "a parameter of the path renamed",
                "path: /bridges/{bridge}/spans/{number}",
                "path: /bridges/{bridge}/spans/{numbr}",
                "JX4",
                "numbr"
            },
            { "a parameter in other letter case", "path: /lookup{?code}", "path: /lookup{?Code}", "JX4", "Code" },
            {
                "the page of a link does not exist",
                "{ to: bridge-sketch, text: Sketch }",
                "{ to: bridge-skecth, text: Sketch }",
                "JX408",
                "bridge-skecth"
            },
            {
                "the page of a link is not written",
                "{ to: bridge-sketch, text: Sketch }",
                "{ to: auctions, text: Sales }",
                "JX501",
                "auctions"
            },
            {
                "a link filled from another type",
                "{ to: inspection, column: held_on }",
                "{ to: inspection, column: held_on, with: { id: verdict } }",
                "JX505",
                "verdict"
            },
            {
                "a link filled from another key",
                "{ to: inspection, column: held_on }",
                "{ to: inspection, column: held_on, with: { id: bridge_id } }",
                "JX510",
                "bridge_id"
            },
            {
                "a link that may be empty",
                "{ to: inspection, column: held_on }",
                "{ to: inspection, column: held_on }\n      - { to: inspector, column: score, with: { id: inspector_id } }",
                "JX506",
                "inspector_id"
            },
            {
                "a detail page without an ID",
                "path: /lookup{?code}\n    detail: bridge\n    by: { code: code }",
                "path: /lookup\n    detail: bridge",
                "JX404",
                "lookup"
            },
            { "a home page that needs an ID", "home: bridges", "home: bridge", "JX411", "bridge" },
            { "two pages of one path", "path: /gallery", "path: /recordings", "JX402", "recordings" },
            { "a fixed path hides a key", "path: /gallery", "path: /districts/upper", "JX403", "upper" },
            {
                "a former path of a living page",
                "    path: /gallery\n",
                "    path: /gallery\n    was: [/bridges]\n",
                "JX402",
                "bridges"
            },
            {
                "a former path takes the ID of another",
                "    path: /gallery\n",
                "    path: /gallery\n    was: [/bridges/7]\n",
                "JX403",
                "bridges"
            },
            {
                "an end after a save that cannot be filled",
                "    then: inspections\n",
                "    then: district-bridges\n",
                "JX5",
                "district"
            },
            {
                "a page that nothing leads to",
                "  photo:\n    path: /photos/{photo}",
                "  lonely: { path: \"/lonely/{id}\", detail: photo }\n  photo:\n    path: /photos/{photo}",
                "JX423",
                "photo"
            },
            { "an edit page that nothing leads to", "      - { to: inspection-edit }\n", "", "JX423", "inspection-edit" },
            {
                "a list out of the menu",
                "      - { to: recording, column: title }\n    menu: 3",
                "      - { to: recording, column: title }\n    menu: hidden",
                "JX423",
                "recordings"
            },
            { "an ID that is not unique", "by: { code: code }", "by: { code: note }", "JX410", "note" },
            {
                "a view without a key",
                "    key: trial\n    unique: assumed\n    label: trial",
                "    label: trial",
                "JX302",
                "trial"
            },
            {
                "a folder of pictures that is not there",
                "under: data/photos, upload: { up_to: 5 MB, name: \"bridge-{code}\" }",
                "under: data/fotos, upload: { up_to: 5 MB, name: \"bridge-{code}\" }",
                "JX312",
                "fotos"
            },
            { "a slip in the footer", "page:about", "page:abuot", "JX408", "abuot" },
            {
                "a page that shows only what is hidden",
                "where: { photo: { is: filled } }\n    show: [photo, name, district.name",
                "where: { status: withdrawn }\n    show: [photo, name, district.name",
                "JX425",
                "gallery"
            },
            {
                "a page drawn by the app itself",
                "path: /sketches\n    list: bridge\n    drawn_at: http://127.0.0.1:7448",
                "path: /sketches\n    list: bridge\n    drawn_at: http://localhost:7440",
                "JX427",
                "sketches"
            },
            {
                "a label that is mostly empty",
                "    from: register.bridge\n    label: name\n",
                "    from: register.bridge\n    label: note\n",
                "JX314",
                "bridges"
            },
            {
                "a setting for nothing",
                "findings:\n",
                "findings:\n  - { code: JX423, on: bridge, as: none, because: \"It was so.\" }\n",
                "JX118",
                "JX423"
            },
            {
                "a setting for an error",
                "findings:\n",
                "findings:\n  - { code: JX408, as: none, because: \"It was so.\" }\n",
                "JX116",
                "error"
            },
            { "a setting without a reason", "findings:\n", "findings:\n  - { code: JX423, as: none }\n", "JX113", "because" },
        };

    public static TheoryData<string, string, string, string, string> InTheData { get; } =
        new()
        {
            {
                "a foreign key to nothing",
                "UPDATE inspection SET bridge_id = 999999 WHERE inspection_id = 5",
                "inspection",
                "JX801",
                "inspection.bridge_id"
            },
            {
                "half of a key of two fields",
                "DELETE FROM span WHERE (bridge_id, span_no) IN "
                    + "(SELECT bridge_id, span_no FROM defect JOIN bridge USING (bridge_id) "
                    + "WHERE status <> 'withdrawn' LIMIT 1)",
                "defect",
                "JX801",
                "defect.bridge_id with span_no"
            },
            {
                "a hidden record",
                "UPDATE bridge SET status = 'withdrawn' WHERE bridge_id = (SELECT bridge_id FROM recording LIMIT 1)",
                "recording",
                "JX802",
                "recording.bridge_id"
            },
            {
                "a key with a control character",
                "INSERT INTO district (slug, name) VALUES ('a' || char(0) || 'b', 'Nul')",
                "district",
                "JX602",
                "district.slug"
            },
            {
                "a key in two spellings",
                "INSERT INTO inspector SELECT upper(inspector_id), name, grade, since, phone, email FROM inspector LIMIT 1",
                "inspector",
                "JX601",
                "inspector"
            },
            { "an empty key", "INSERT INTO district (slug, name) VALUES ('', 'Nowhere')", "district", "JX602", "district.slug" },
            { "a key of dots", "INSERT INTO district (slug, name) VALUES ('..', 'Above')", "district", "JX602", "district.slug" },
            {
                "a key longer than an address",
                "INSERT INTO district (slug, name) VALUES (printf('%.5000c', 'x'), 'Long')",
                "district",
                "JX602",
                "district.slug"
            },
            {
                "a key that is bytes",
                "INSERT INTO district (slug, name) VALUES (x'0102', 'Bytes')",
                "district",
                "JX602",
                "district.slug"
            },
            { "an empty label", "UPDATE bridge SET name = ' ' WHERE bridge_id = 9", "bridge", "JX805", "bridge" },
            {
                "a value of another type",
                "UPDATE bridge SET lanes = 'many' WHERE bridge_id = 9",
                "bridge",
                "JX804",
                "bridge.lanes"
            },
            {
                "a value against its pattern",
                "UPDATE bridge SET code = 'AV-7' WHERE bridge_id = 7",
                "bridge",
                "JX807",
                "bridge.code"
            },
            {
                "a choice without a word",
                "UPDATE defect SET severity = 9 WHERE defect_id = 1",
                "defect",
                "JX807",
                "defect.severity"
            },
            {
                "an address that is none",
                "UPDATE bridge SET toll = 1, toll_site = 'javascript:alert(1)' WHERE bridge_id = 1",
                "bridge",
                "JX807",
                "bridge.toll_site"
            },
            { "a kind without a record", "DELETE FROM photo", "photo", "JX810", "photo" },
            { "a picture that is gone", "UPDATE photo SET file = 'gone.jpg' WHERE photo_id = 1", "photo", "JX806", "photo.file" },
            {
                "a picture outside of its folder",
                "UPDATE photo SET file = '../register.db' WHERE photo_id = 1",
                "photo",
                "JX806",
                "photo.file"
            },
            {
                "a link in a text to no page",
                "UPDATE bridge SET story = 'See [it](page:nowhere).' WHERE bridge_id = 2",
                "bridge",
                "JX808",
                "bridge.story"
            },
            {
                "a link in a text to no record",
                "UPDATE bridge SET story = 'See [it](/bridges/999999).' WHERE bridge_id = 2",
                "bridge",
                "JX808",
                "bridge.story"
            },
        };

    public static TheoryData<string, string, string, string, string, string> InBoth { get; } =
        new()
        {
            {
                "a list shows what its detail hides",
                "    path: /inspectors/{id}\n    detail: inspector\n",
                "    path: /inspectors/{id}\n    detail: inspector\n    where: { grade: senior }\n",
                "inspectors",
                "JX802",
                "inspectors → inspector"
            },
            {
                "a foreign key to a kind that hides",
                "    from: register.inspector\n",
                "    from: register.inspector\n    visible: { grade: senior }\n",
                "inspection",
                "JX802",
                "inspection.inspector_id"
            },
            {
                "a block tied by the wrong field",
                "{ record: gauge, tied: { river: river }, show: [place, level_m, rising, measured_at], "
                    + "title: Water at its river, size: 3 }",
                "{ record: district, tied: { name: river }, show: [name], title: Its district, size: 3 }",
                "bridge",
                "JX811",
                "bridge / district"
            },
            {
                "a list that no record meets",
                "where: { photo: { is: filled } }\n    show: [photo, name, district.name",
                "where: { river: Nowhere }\n    show: [photo, name, district.name",
                "gallery",
                "JX810",
                "gallery"
            },
            {
                "a setting for nothing",
                "findings:\n",
                "findings:\n  - { code: JX805, on: bridge, as: none, because: \"It was so.\" }\n",
                "",
                "JX118",
                "JX805"
            },
            {
                "a fixed path that takes a record's address",
                "path: /gallery",
                "path: /districts/løkke",
                "district districts",
                "JX803",
                "district"
            },
        };

    private static string Lines(IEnumerable<string> found) => string.Join("\n", found.DefaultIfEmpty("nothing"));

    /// <summary>The demo's register, made once.</summary>
    public sealed class Copy : IDisposable
    {
        private readonly string _folder = Directory.CreateTempSubdirectory("jexa-planted-").FullName;

        public Copy() => RegisterMaker.Ensure(Path.Combine(_folder, "data", "register.db"));

        public Planted Again() => new(_folder);

        public void Dispose() => Directory.Delete(_folder, recursive: true);
    }
}
