using Jexa.Core.Visits;

namespace Jexa.Sources.Tests;

/// <summary>Parameters that are nearly one of a path's, whichever of its pages would have been meant.</summary>
public sealed class NearNameTests
{
    private const string App = """
        app: Register
        sources: { register: { engine: sqlite, connection: register.db } }
        records: { bridge: { from: register.bridge }, district: { from: register.district } }
        pages:
          bridges: { path: "/bridges{?open_in,status*}", list: bridge, where: { opened_on: { year: "{open_in}" }, status: { one_of: "{status}" } } }
          bridge: { path: "/bridges{?bridgeId}", detail: bridge, by: { bridgeId: bridge_id } }
          about-districts: { path: /district, text: "About districts." }
          district: { path: "/district{?slug}", detail: district }
        """;

    public static TheoryData<string, string, string> Misspelled()
    {
        var data = new TheoryData<string, string, string>();
        foreach (
            var (path, name, value, page) in new[]
            {
                ("/bridges", "bridgeId", "7", "bridge"),
                ("/bridges", "open_in", "1931", "bridges"),
                ("/bridges", "status", "open", "bridges"),
                ("/district", "slug", "l%C3%B8kke", "district"),
            }
        )
        {
            string[] spellings =
            [
                name.ToUpperInvariant(),
                char.ToUpperInvariant(name[0]) + name[1..],
                name + "[]",
                name + "%5B%5D",
                name[..2] + "_" + name[2..],
                "_" + name,
                name[..2] + "-" + name[2..],
                name[..3] + "." + name[3..],
            ];
            foreach (var spelled in spellings)
                data.Add($"{path}?{spelled}={value}", name, page);
        }

        // Whichever page the rest of the address means.
        data.Add("/bridges?bridgeId=7&Status=open", "status", "bridges");
        data.Add("/bridges?open_in=1931&BRIDGEID=7", "bridgeId", "bridge");
        data.Add("/bridges?find=otter&bridgeid=7", "bridgeId", "bridge");
        return data;
    }

    [Theory]
    [MemberData(nameof(Misspelled))]
    public async Task A_name_that_is_nearly_one_of_any_page_of_the_path_is_malformed(
        string address,
        string parameter,
        string page
    )
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(App);
        var (answer, trace) = await app.VisitAsync(site, address);
        Assert.Equal(("malformed", 400, page), ($"{answer.Outcome}", answer.Status, trace.Page?.Name));
        Assert.Equal(parameter, Assert.IsType<Outcome.Malformed>(answer.Outcome).Parameter);
    }

    [Theory]
    [InlineData("/bridges?bridgeId=7", "found")]
    [InlineData("/bridges?status=open&open_in=1931", "listed")]
    [InlineData("/bridges?other=1", "listed")]
    [InlineData("/bridges?-=1", "listed")]
    [InlineData("/district", "shown")]
    public async Task Other_names_change_nothing(string address, string outcome)
    {
        await using var app = new TestApp();
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(App), address);
        Assert.Equal(outcome, $"{answer.Outcome}");
    }
}
