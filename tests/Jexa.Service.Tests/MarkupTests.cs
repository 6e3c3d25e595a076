using AngleSharp.Html.Parser;

namespace Jexa.Service.Tests;

/// <summary>HTML as its standard has it, and what browsers and search engines look for.</summary>
public sealed class MarkupTests(DemoService demo) : IDisposable
{
    private readonly AppFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("/bridges")]
    [InlineData("/bridges/7")]
    [InlineData("/bridges/7/edit")]
    [InlineData("/bridges/7/delete")]
    [InlineData("/bridges/new")]
    [InlineData("/inspections/new?bridge=7")]
    [InlineData("/gallery")]
    public async Task Choices_that_are_required_can_be_left_unmade_and_buttons_say_what_they_do(string target)
    {
        var document = new HtmlParser().ParseDocument((await demo.Service.GetAsync(target)).Body);
        Assert.NotNull(document.QuerySelector("main"));
        foreach (var select in document.QuerySelectorAll("select[required]"))
            Assert.Equal("", select.QuerySelector("option")!.GetAttribute("value"));
        foreach (var button in document.QuerySelectorAll("button"))
            Assert.Contains(button.GetAttribute("type"), new[] { "submit", "button", "reset" });
    }

    [Fact]
    public async Task Pictures_say_their_size_as_their_files_have_it()
    {
        Directory.CreateDirectory(_folder.File("pics"));
        string[] kinds = ["png", "jpg", "gif", "webp", "avif", "svg"];
        foreach (var kind in kinds)
            File.Copy(Repository.File($"tests/pictures/bridge.{kind}"), _folder.File($"pics/bridge.{kind}"));
        File.WriteAllText(_folder.File("pics/bare.svg"), """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"/>""");
        _folder.MakeDatabase(
            "CREATE TABLE thing (id INTEGER PRIMARY KEY, pic TEXT); "
                + $"{string.Concat(kinds.Select(kind => $"INSERT INTO thing (pic) VALUES ('bridge.{kind}');"))} "
                + "INSERT INTO thing (pic) VALUES ('bare.svg')"
        );
        using var service = await RunningService.StartAsync(
            "serve",
            _folder.Write(
                "app.yaml",
                """
                app: Things
                sources: { s: { engine: sqlite, connection: data.db } }
                records: { thing: { from: s.thing, fields: { pic: { as: image, under: pics } } } }
                pages: { things: { path: /things, list: thing }, thing: { path: "/things/{id}", detail: thing } }
                """
            )
        );
        for (var i = 0; i <= kinds.Length; i++)
        {
            var image = new HtmlParser()
                .ParseDocument((await service.GetAsync($"/things/{i + 1}")).Body)
                .QuerySelector("img.picture")!;
            Assert.Equal(
                i < kinds.Length ? ("24", "16") : (null, null),
                (image.GetAttribute("width"), image.GetAttribute("height"))
            );
        }
    }

    [Fact]
    public async Task The_canonical_address_is_whole_where_the_host_is_known_and_the_icon_is_where_browsers_look()
    {
        Assert.Contains("</bridges/7>; rel=\"canonical\"", (await demo.Service.GetAsync("/bridges/7")).Header("Link"));
        var icon = await demo.Service.GetAsync("/favicon.ico");
        Assert.Equal((200, "image/svg+xml"), (icon.Status, icon.Header("Content-Type")));
        _folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync(
            "serve",
            _folder.Write("app.yaml", AppFolder.App),
            "--host",
            "things.example",
            "--proxy",
            "127.0.0.1"
        );
        Assert.Contains(
            "<http://things.example/things/1>; rel=\"canonical\"",
            (await AskAsync("things.example", "")).Header("Link")
        );
        Assert.Contains(
            "<https://things.example/things/1>; rel=\"canonical\"",
            (
                await AskAsync("127.0.0.1:" + service.Port, "X-Forwarded-Host: things.example\r\nX-Forwarded-Proto: https\r\n")
            ).Header("Link")
        );
        Assert.Contains("</things/1>; rel=\"canonical\"", (await AskAsync("127.0.0.1:" + service.Port, "")).Header("Link"));

        Task<RawAnswer> AskAsync(string host, string headers) =>
            service.SendAsync($"GET /things/1 HTTP/1.1\r\nHost: {host}\r\n{headers}Connection: close\r\n\r\n");
    }
}
