using System.Buffers.Binary;
using System.Text.RegularExpressions;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>Recordings, files, players of other hosts, and smaller pictures.</summary>
public sealed class MediaTests(Browser browser)
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          thing:
            from: s.thing
            label: name
            fields:
              film: { as: video, under: media }
              sound: { as: audio, under: media }
              paper: { as: file, under: media }
              photo: { as: image, under: media }
              talk: { as: embed, player: "http://player.example/show/{value}?plain=1", when: { open: true } }
              open: { type: boolean }
        pages:
          things: { path: /things, list: thing, order: [name], show: [name, film, sound, paper, talk] }
          cards: { path: /cards, list: thing, order: [name], look: cards, show: [photo, name] }
          thing: { path: "/things/{id}", detail: thing, play_on: true }
        """;

    private const string Schema = """
        CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, film TEXT, sound TEXT, paper TEXT, photo TEXT, talk TEXT,
          open INTEGER NOT NULL DEFAULT 1);
        """;

    private static AppFolder Make(string rows)
    {
        var folder = new AppFolder();
        folder.MakeDatabase(Schema + rows);
        folder.Write("app.yaml", App);
        Directory.CreateDirectory(folder.File("media"));
        foreach (var from in new[] { "tests/recordings", "tests/pictures" })
        foreach (var file in Directory.GetFiles(Repository.File(from)))
            File.Copy(file, folder.File($"media/{Path.GetFileName(file)}"));
        return folder;
    }

    [Theory]
    [InlineData("film", "film.webm", "video/webm")]
    [InlineData("film", "film.mp4", "video/mp4")]
    [InlineData("sound", "plain.mp3", "audio/mpeg")]
    [InlineData("sound", "sound.ogg", "audio/ogg")]
    [InlineData("sound", "sound.flac", "audio/flac")]
    [InlineData("sound", "sound.m4a", "audio/mp4")]
    public async Task A_recording_is_sent_as_what_it_is_and_in_the_ranges_that_are_asked_for(
        string field,
        string file,
        string type
    )
    {
        using var folder = Make($"INSERT INTO thing (id, name, {field}) VALUES (1, 'one', '{file}')");
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var address = $"/_jexa/recordings/thing/{field}/1";
        Assert.Contains($" src=\"{address}\"", (await service.GetAsync("/things/1")).Body);
        var length = new FileInfo(folder.File($"media/{file}")).Length;

        var whole = await service.GetAsync(address);
        Assert.Equal(200, whole.Status);
        Assert.Equal(type, whole.Header("Content-Type"));
        Assert.Equal("bytes", whole.Header("Accept-Ranges"));
        Assert.Equal(length.ToString(), whole.Header("Content-Length"));

        var part = await service.GetAsync(address, "Range: bytes=10-19\r\n");
        Assert.Equal(206, part.Status);
        Assert.Equal($"bytes 10-19/{length}", part.Header("Content-Range"));
        Assert.Equal("10", part.Header("Content-Length"));
        Assert.Equal($"bytes {length - 5}-{length - 1}/{length}", (await EndAsync("bytes=-5")).Header("Content-Range"));
        Assert.Equal(416, (await EndAsync($"bytes={length}-")).Status);
        Assert.Equal(200, (await service.GetAsync(address, "Range: bytes=10-19\r\nIf-Range: \"another\"\r\n")).Status);
        var head = await service.GetAsync(address, "", "HEAD");
        Assert.Equal((200, ""), (head.Status, head.Body));
        Assert.Equal(304, (await service.GetAsync(address, $"If-None-Match: {whole.Header("ETag")}\r\n")).Status);
        Assert.Equal(405, (await service.GetAsync(address, "", "DELETE")).Status);

        Task<RawAnswer> EndAsync(string range) => service.GetAsync(address, $"Range: {range}\r\n");
    }

    [Theory]
    [InlineData("../secret.mp4")]
    [InlineData("/etc/passwd")]
    [InlineData("none.mp4")]
    [InlineData("folder")]
    [InlineData("out/secret.mp4")]
    public async Task A_name_that_leads_nowhere_is_missing_on_the_page_in_JSON_and_at_its_address(string name)
    {
        using var folder = Make($"INSERT INTO thing (id, name, film, paper) VALUES (1, 'one', '{name}', '{name}')");
        File.Copy(folder.File("media/film.mp4"), folder.File("secret.mp4"));
        Directory.CreateDirectory(folder.File("media/folder"));
        File.CreateSymbolicLink(folder.File("media/out"), folder.Path);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = (await service.GetAsync("/things/1")).Body;
        Assert.DoesNotContain("<video", page);
        Assert.Equal(2, Regex.Count(page, "is missing"));
        Assert.Equal(2, Regex.Count((await service.GetJsonAsync("/things/1")).Body, "\"address\":null"));
        Assert.Equal(404, (await service.GetAsync("/_jexa/recordings/thing/film/1")).Status);
        Assert.Equal(404, (await service.GetAsync("/_jexa/files/thing/paper/1")).Status);
    }

    [Fact]
    public async Task What_is_no_recording_is_not_sent_as_one_and_a_download_is_never_opened()
    {
        using var folder = Make("INSERT INTO thing (id, name, film, paper) VALUES (1, 'one', 'page.html', 'page.html')");
        File.WriteAllText(folder.File("media/page.html"), "<script>alert(1)</script>");
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Equal(404, (await service.GetAsync("/_jexa/recordings/thing/film/1")).Status);
        Assert.Equal(404, (await service.GetAsync("/_jexa/files/thing/film/1")).Status);
        var file = await service.GetAsync("/_jexa/files/thing/paper/1");
        Assert.Equal("text/plain; charset=utf-8", file.Header("Content-Type"));
        Assert.StartsWith("attachment; filename=page.html", file.Header("Content-Disposition"));
        Assert.Equal("default-src 'none'; sandbox", file.Header("Content-Security-Policy"));
        Assert.Contains(">page.html</a> <span class=\"kind\">Text, 25 bytes</span>", (await service.GetAsync("/things/1")).Body);
    }

    [Fact]
    public async Task Only_the_named_player_is_framed_and_only_where_the_field_is_shown()
    {
        using var folder = Make(
            """
            INSERT INTO thing (id, name, talk, open) VALUES (1, 'one', '../a"><script>b</script>', 1), (2, 'two', 'abc', 0),
              (3, 'three', '..', 1)
            """
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await service.GetAsync("/things/1");
        Assert.Contains("frame-src http://player.example;", page.Header("Content-Security-Policy"));
        Assert.Contains(
            "src=\"http://player.example/show/..%2Fa%22%3E%3Cscript%3Eb%3C%2Fscript%3E?plain=1\" title=\"Talk: one\"></iframe>",
            page.Body
        );
        Assert.Contains("sandbox=\"allow-scripts allow-same-origin\"", page.Body);
        Assert.DoesNotContain("<script>b", page.Body);
        Assert.DoesNotContain("abc", (await service.GetAsync("/things/2")).Body);
        Assert.DoesNotContain("iframe", (await service.GetAsync("/things/3")).Body);
        Assert.DoesNotContain("iframe", (await service.GetAsync("/things")).Body);

        using var plain = new AppFolder();
        plain.MakeDatabase(AppFolder.Schema);
        using var other = await RunningService.StartAsync("serve", plain.Write("app.yaml", AppFolder.App));
        Assert.DoesNotContain("frame-src", (await other.GetAsync("/things/1")).Header("Content-Security-Policy"));
    }

    [Fact]
    public async Task A_browser_is_offered_smaller_pictures_which_are_made_once()
    {
        using var folder = Make(
            "INSERT INTO thing (id, name, photo) VALUES (1, 'wide', 'wide.jpg'), "
                + "(2, 'turned', 'turned.jpg'), (3, 'drawn', 'bridge.svg')"
        );
        File.WriteAllBytes(folder.File("media/turned.jpg"), Turned(File.ReadAllBytes(folder.File("media/wide.jpg"))));
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        const string address = "/_jexa/pictures/thing/photo/1";
        var page = (await service.GetAsync("/things/1")).Body;
        Assert.Contains(
            $"src=\"{address}\" srcset=\"{address}?width=240 240w, {address}?width=480 480w, {address}?width=960 960w, "
                + $"{address} 1000w\" sizes=\"",
            page
        );
        Assert.Contains("width=\"1000\" height=\"500\"", page);
        Assert.DoesNotContain("srcset", (await service.GetAsync("/things/3")).Body);
        Assert.Contains("width=\"500\" height=\"1000\"", (await service.GetAsync("/things/2")).Body);

        using var http = new HttpClient { BaseAddress = new Uri(service.PagesUrl) };
        Assert.Equal((480, 240), await SizeAsync($"{address}?width=480"));
        Assert.Equal((240, 480), await SizeAsync("/_jexa/pictures/thing/photo/2?width=240"));
        Assert.Equal((1000, 500), await SizeAsync($"{address}?width=481"));
        Assert.Equal((1000, 500), await SizeAsync($"{address}?width=1600"));
        var made = Directory.GetFiles(Path.Combine(service.State, "pictures"));
        Assert.Equal(2, made.Length);
        var written = made.Select(File.GetLastWriteTimeUtc).ToList();
        await SizeAsync($"{address}?width=480");
        Assert.Equal(written, made.Select(File.GetLastWriteTimeUtc));

        // Another picture of the same name is another picture.
        File.Copy(folder.File("media/bridge.png"), folder.File("media/wide.jpg"), overwrite: true);
        Assert.Equal("image/png", (await http.GetAsync($"{address}?width=480")).Content.Headers.ContentType!.MediaType);

        async Task<(int, int)> SizeAsync(string target)
        {
            var bytes = await http.GetByteArrayAsync(target.TrimStart('/'));
            var at = bytes.AsSpan().IndexOf((byte[])[0xff, 0xc0]);
            return (
                BinaryPrimitives.ReadUInt16BigEndian(bytes.AsSpan(at + 7)),
                BinaryPrimitives.ReadUInt16BigEndian(bytes.AsSpan(at + 5))
            );
        }
    }

    /// <summary>The picture with an orientation (Exif 2.3, tag 0x0112): the camera was held upright.</summary>
    private static byte[] Turned(byte[] picture)
    {
        byte[] exif = [.. "Exif\0\0MM\0*"u8, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, 0, 0];
        return [0xff, 0xd8, 0xff, 0xe1, 0, (byte)(exif.Length + 2), .. exif, .. picture[2..]];
    }

    [Fact]
    public async Task The_end_of_a_recording_leads_to_the_next_record_whose_recording_begins()
    {
        using var folder = Make(
            "INSERT INTO thing (id, name, sound) VALUES (1, 'b', 'plain.mp3'), (2, 'a', 'sound.ogg'), (3, 'c', NULL)"
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        await using var context = await browser.Chromium.NewContextAsync();
        var page = await context.NewPageAsync();
        await page.GotoAsync(service.PagesUrl + "things");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "a", Exact = true }).ClickAsync();
        Assert.Equal("a", await page.Locator("h1").TextContentAsync());
        await page.EvaluateAsync("document.querySelector('audio').play()");
        await page.WaitForURLAsync(url => url.Contains("/things/1"));
        await page.WaitForFunctionAsync("document.querySelector('audio')?.currentTime > 0");

        // The last one has none: it is shown, and that is the end.
        await page.WaitForURLAsync(url => url.Contains("/things/3"));
        Assert.Equal(0, await page.Locator("audio").CountAsync());
        Assert.DoesNotContain("#", page.Url);
    }
}
