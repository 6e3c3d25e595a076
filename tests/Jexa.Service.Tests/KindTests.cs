using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>
/// Moments kept as seconds, bytes kept in records, the page of all lists, and pages that are still to be written.
/// </summary>
public sealed class KindTests(Browser browser) : IAsyncLifetime
{
    private readonly AppFolder _folder = new();
    private RunningService _service = null!;
    private Visitor _visitor = null!;

    public async ValueTask InitializeAsync()
    {
        _folder.MakeDatabase(
            """
            CREATE TABLE plan (
              id INTEGER PRIMARY KEY, name TEXT NOT NULL, seen_at INTEGER NOT NULL, drawing BLOB, is_open INTEGER NOT NULL DEFAULT 1, shut INTEGER NOT NULL DEFAULT 0);
            INSERT INTO plan VALUES
              (1, 'One', 1700000000, x'89504e470d0a1a0a00000000', 1, 0),
              (2, 'Two', 1700000059, CAST('a plan in words' AS BLOB), 1, 0),
              (3, 'Three', 0, NULL, 1, 0),
              (4, 'Four', 1700000000, x'00ff00ff', 0, 0), (5, 'Five', 1700000000, x'00ff', 1, 1),
              (6, 'Six', 9223372036854775807, CAST('<script>alert(1)</script>' AS BLOB), 1, 0);
            CREATE TABLE plan_sheet (id INTEGER PRIMARY KEY, name TEXT NOT NULL); INSERT INTO plan_sheet VALUES (1, 'A'), (2, 'B');
            CREATE TABLE plan_note (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
            CREATE TABLE gate (id INTEGER PRIMARY KEY, name TEXT NOT NULL); INSERT INTO gate VALUES (1, 'G');
            """
        );
        _service = await RunningService.StartAsync(
            "serve",
            _folder.Write(
                "app.yaml",
                """
                app: Plans
                zone: Etc/GMT-2
                sources: { s: { engine: sqlite, connection: data.db } }
                records:
                  plan:
                    from: s.plan
                    label: name
                    visible: { shut: 0 }
                    fields: { seen_at: { as: epoch }, drawing: { when: { is_open: 1 } } }
                  sheet: { from: s.plan_sheet, label: name }
                  plan_sheet: { from: s.plan_sheet, label: name }
                  plan_note: { from: s.plan_note, label: name }
                  gate: { from: s.gate, label: name }
                pages:
                  plans: { path: /plans, list: plan, show: [name, seen_at, drawing],
                    links: [{ to: plan }, { to: gate-edit, text: Gate, with: { gate: id } }, { to: survey, text: Survey }] }
                  plan: { path: "/plans/{id}", detail: plan, forms: [edit] }
                  plan-sheets: { path: /sheets, list: plan_sheet, menu: hidden }
                  plan-notes: { path: /notes, list: plan_note, menu: hidden }
                  gates: { path: /gates, list: gate, menu: hidden }
                  lists: { path: /lists, text: "All of them.", lists: all }
                """
            )
        );
        _visitor = new Visitor(_service.PagesUrl);
    }

    public ValueTask DisposeAsync()
    {
        _visitor.Dispose();
        _service.Dispose();
        _folder.Dispose();
        return default;
    }

    [Fact]
    public async Task Seconds_since_1970_are_shown_and_typed_as_moments_and_told_as_numbers()
    {
        var time = (await _visitor.GetAsync("/plans/1")).Html.QuerySelector("time")!;
        Assert.Equal(("2023-11-14T22:13:20Z", "15 November 2023, 00:13:20"), (time.GetAttribute("datetime"), time.TextContent));
        Assert.Contains("9,223,372,036,854,775,807", (await _visitor.GetAsync("/plans/6")).Body);
        Assert.Equal(
            1_700_000_000,
            (await _visitor.JsonAsync("/plans/1")).Json.GetProperty("fields").GetProperty("seen_at").GetInt64()
        );

        var form = await _visitor.FormAsync("/plans/2/edit");
        Assert.Equal(
            ("2023-11-15T00:14:19", "datetime-local"),
            (form.Fields["seen_at"], form.Document.QuerySelector("#f-seen_at")!.GetAttribute("type"))
        );
        Assert.Equal(303, (await _visitor.PostAsync(form)).Status);
        Assert.Equal(1_700_000_059L, Seen(2));
        Assert.Equal(303, (await _visitor.PostAsync(form.With(("seen_at", "2024-02-29T14:30")))).Status);
        Assert.Equal(1_709_209_800L, Seen(2));
        Assert.Contains(
            "write one like 2024-02-29T14:30",
            Assert.Single(
                (await _visitor.PostAsync((await _visitor.FormAsync("/plans/2/edit")).With(("seen_at", "soon")))).Faults
            )
        );
        var read = await _visitor.JsonAsync("/plans/2/edit");
        Assert.Equal(200, (await _visitor.PatchAsync("/plans/2/edit", """{"fields":{"seen_at":7}}""", read.Tag)).Status);
        Assert.Equal(7L, Seen(2));

        object? Seen(int id)
        {
            using var connection = _folder.Open();
            using var command = connection.CreateCommand();
            command.CommandText = $"SELECT seen_at FROM plan WHERE id = {id}";
            return command.ExecuteScalar();
        }
    }

    [Fact]
    public async Task Bytes_of_a_record_are_a_file_exactly_where_the_field_is_seen()
    {
        var link = (await _visitor.GetAsync("/plans/1")).Html.QuerySelector("a[download]")!;
        Assert.Equal(("/_jexa/bytes/plan/drawing/1", "PNG picture, 12 bytes"), (link.GetAttribute("href"), link.TextContent));
        Assert.Equal("Text, 15 bytes", (await _visitor.GetAsync("/plans/2")).Html.QuerySelector("a[download]")!.TextContent);
        foreach (
            var (id, type, file, body) in new[]
            {
                (1, "image/png", "plan-drawing-1.png", null),
                (2, "text/plain; charset=utf-8", "plan-drawing-2.txt", "a plan in words"),
                (6, "text/plain; charset=utf-8", "plan-drawing-6.txt", "<script>alert(1)</script>"),
            }
        )
        {
            var answer = await _service.GetAsync($"/_jexa/bytes/plan/drawing/{id}");
            Assert.Equal(
                (200, type, "nosniff"),
                (answer.Status, answer.Header("Content-Type"), answer.Header("X-Content-Type-Options"))
            );
            Assert.Equal($"attachment; filename={file}; filename*=UTF-8''{file}", answer.Header("Content-Disposition"));
            Assert.Contains("sandbox", answer.Header("Content-Security-Policy"));
            if (body is not null)
                Assert.Equal(body, answer.Body);
            Assert.Equal(
                304,
                (await _service.GetAsync($"/_jexa/bytes/plan/drawing/{id}", $"If-None-Match: {answer.Header("ETag")}\r\n")).Status
            );
        }

        // Empty, of a field that the record does not show, of a record that may not be seen, of none, of another field, another
        // spelling.
        foreach (
            var path in new[]
            {
                "plan/drawing/3",
                "plan/drawing/4",
                "plan/drawing/5",
                "plan/drawing/99",
                "plan/name/1",
                "plan/drawing/01",
                "gate/drawing/1",
                "plan/drawing",
            }
        )
            Assert.Equal((404, ""), await AnswerAsync(path));
        Assert.Equal(405, (await _service.GetAsync("/_jexa/bytes/plan/drawing/1", method: "POST")).Status);

        async Task<(int, string)> AnswerAsync(string path)
        {
            var answer = await _service.GetAsync("/_jexa/bytes/" + path);
            return (answer.Status, answer.Status == 404 && answer.Header("Content-Disposition") is null ? "" : answer.Body);
        }
    }

    [Fact]
    public async Task A_page_of_all_lists_groups_counts_and_finds_them()
    {
        var page = await browser.OpenAsync(1280, ColorScheme.Light);
        // Lists that take long to count are counted behind the page: their numbers stand on the next one.
        await Eventually.TrueAsync(async () =>
        {
            await page.GotoAsync(_service.PagesUrl.TrimEnd('/') + "/lists");
            return await ListsAsync() == "Plan: Plan notes 0, Plan sheets 2, Plans 5; Others: Gates 1";
        });
        await Browser.AssertFitAsync(page);
        await page.GetByLabel("Find a list").FillAsync("SHEET plan");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Show" }).ClickAsync();
        Assert.StartsWith("Plan: Plan sheets", await ListsAsync());
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Plan sheets" }).ClickAsync();
        await Assertions.Expect(page.Locator("h1")).ToHaveTextAsync("Plan sheets");
        await page.GotoAsync(_service.PagesUrl.TrimEnd('/') + "/lists?find=<b>");
        await Assertions.Expect(page.Locator(".none-yet")).ToHaveTextAsync("No list is called “<b>”.");
        await page.Context.CloseAsync();
        var told = (await _visitor.JsonAsync("/lists?find=gate")).Json.GetProperty("lists");
        Assert.Equal(
            """[{"page":"gates","text":"Gates","address":"/gates","total":{"count":1,"exact":true}}]""",
            told.GetRawText()
        );

        async Task<string> ListsAsync() =>
            string.Join(
                "; ",
                await Task.WhenAll(
                    (await page.Locator(".lists").AllAsync()).Select(async group =>
                        $"{await group.Locator("h2").InnerTextAsync()}: "
                        + $"{string.Join(", ", (await group.Locator("li").AllInnerTextsAsync()).Select(text => text.Trim()))}"
                    )
                )
            );
    }

    [Fact]
    public async Task A_page_that_is_still_to_be_written_stands_as_a_stub_that_says_what_links_pass()
    {
        var links = (await _visitor.GetAsync("/plans"))
            .Html.QuerySelectorAll("tbody tr:first-child .action a")
            .Select(link => link.GetAttribute("href")!)
            .ToList();
        Assert.Equal(["/_jexa/unwritten/gate-edit?gate=1", "/_jexa/unwritten/survey?id=1"], links);
        var stub = await _visitor.GetAsync(links[0]);
        Assert.Equal(404, stub.Status);
        foreach (
            var sentence in new[]
            {
                "A link leads to the page “gate-edit”, which is still to be written.",
                "It is to change one gate.",
                "The link passes: gate is 1.",
            }
        )
            Assert.Contains(sentence, stub.Body);
        Assert.Contains("The link passes: id is 1.", (await _visitor.GetAsync(links[1])).Body);

        // Nothing is said of pages that no link leads to, nor of what no link would pass.
        Assert.Contains("There is no page here", (await _visitor.GetAsync("/_jexa/unwritten/elsewhere")).Body);
        Assert.DoesNotContain("Call", (await _visitor.GetAsync("/_jexa/unwritten/survey?id=Call+now&more=Call")).Body);
        var checkedFile = await RunningService.RunAsync("check", _folder.File("app.yaml"));
        Assert.Contains("gate-edit: { path: \"/gate-edit/{gate}\", edit: gate }", checkedFile.Out.ReplaceLineEndings(" "));
    }
}
