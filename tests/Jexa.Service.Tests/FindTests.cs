using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>One search across several lists.</summary>
public sealed class FindTests(DemoService demo)
{
    private RunningService Service => demo.Service;

    [Fact]
    public async Task Each_list_shows_its_first_records_and_the_way_to_all_that_are_like_that()
    {
        var page = (await Service.GetAsync("/find?find=oak")).Body;
        Assert.Contains("name=\"find\" maxlength=\"200\" value=\"oak\"", page);
        var json = JsonDocument.Parse((await Service.GetJsonAsync("/find?find=oak")).Body).RootElement;
        foreach (var list in json.GetProperty("found").EnumerateArray())
        {
            var all = JsonDocument.Parse((await Service.GetJsonAsync(list.GetProperty("address").GetString()!)).Body).RootElement;
            Assert.Equal(
                list.GetProperty("records").GetRawText(),
                $"[{string.Join(',', all.GetProperty("records").EnumerateArray().Take(5).Select(one => one.GetRawText()))}]"
            );
            Assert.Equal(all.GetProperty("total").GetRawText(), list.GetProperty("total").GetRawText());
            Assert.Contains($">{list.GetProperty("text").GetString()}", page);
        }

        var pages = json.GetProperty("found").EnumerateArray().Select(list => list.GetProperty("page").GetString()).ToList();
        Assert.Contains("bridges", pages);
        Assert.Contains("inspections", pages);
        Assert.Contains("<p class=\"more\"><a href=\"/bridges?find=oak\">All ", page);
    }

    [Fact]
    public async Task What_may_not_be_seen_is_not_found_and_odd_words_get_an_answer()
    {
        Assert.Contains("AV-0014", (await Service.GetAsync("/find?find=AV-0014")).Body);
        Assert.DoesNotContain("/bridges/13", (await Service.GetAsync("/find?find=AV-0013")).Body);
        Assert.Contains("Nothing was found for “AV-0013”.", (await Service.GetAsync("/find?find=AV-0013")).Body);
        Assert.Contains("Write no more than 8 words.", (await Service.GetAsync("/find?find=a+b+c+d+e+f+g+h+i")).Body);
        Assert.DoesNotContain("<script>x", (await Service.GetAsync("/find?find=%3Cscript%3Ex")).Body);
        Assert.Equal(200, (await Service.GetAsync("/find?find=%25_%27%22%00")).Status);
        Assert.DoesNotContain("Nothing was found", (await Service.GetAsync("/find")).Body);
    }

    [Theory]
    [InlineData("thing", "it is no list")]
    [InlineData("bare", "it has no search")]
    [InlineData("of-kind", "it needs a parameter")]
    [InlineData("thngs", "thngs")]
    public async Task What_cannot_be_searched_is_a_finding(string name, string why)
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write(
            "app.yaml",
            $$"""
            app: Things
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { thing: { from: s.thing, label: name } }
            pages:
              things: { path: /things, list: thing, search: [name] }
              bare: { path: /bare, list: thing }
              of-kind: { path: "/names/{name}", list: thing, search: [name] }
              thing: { path: "/things/{id}", detail: thing }
              find: { path: /find, text: Find, finds: [{{name}}] }
            """
        );
        var ran = await RunningService.RunAsync("check", folder.File("app.yaml"));
        Assert.Equal(1, ran.ExitCode);
        Assert.Contains(why, ran.Out);
    }

    [Fact]
    public async Task A_source_that_is_away_leaves_the_others_to_be_searched()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.MakeDatabase(AppFolder.Schema.Replace("thing", "ship"), "other.db");
        folder.Write(
            "app.yaml",
            """
            app: Things
            sources: { s: { engine: sqlite, connection: data.db }, o: { engine: sqlite, connection: other.db } }
            records: { thing: { from: s.thing, label: name }, ship: { from: o.ship, label: name } }
            pages:
              things: { path: /things, list: thing, search: [name] }
              ships: { path: /ships, list: ship, search: [name] }
              find: { path: /find, text: Find, finds: [ships, things] }
            """
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.DoesNotContain("cannot be searched", (await service.GetAsync("/find?find=one")).Body);
        folder.MakeDatabase("ALTER TABLE ship RENAME TO gone", "other.db");
        var page = (await service.GetAsync("/find?find=one")).Body;
        Assert.Contains("This list cannot be searched just now.", page);
        Assert.Contains(">one</td>", page);
    }
}
