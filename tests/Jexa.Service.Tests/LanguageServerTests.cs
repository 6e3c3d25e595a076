using System.Diagnostics;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>The language server as an editor uses it, through the client library of the protocol.</summary>
public sealed class LanguageServerTests
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records: { thing: { from: s.thing, label: name } }
        pages:
          things: { path: /things, list: thing, order: [name], links: [{ to: thing }] }
          thing: { path: "/things/{id}", detail: thing }
          about: { path: /about, text: about.md }

        """;

    private static async Task<JsonElement> EditAsync(AppFolder folder)
    {
        using var node = Process.Start(
            new ProcessStartInfo(
                "node",
                [Repository.File("tests/clients/editor.mjs"), RunningService.Program, folder.File("app.yaml")]
            )
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var error = node.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        var told = await node.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await node.WaitForExitAsync(TestContext.Current.CancellationToken);
        Assert.True(node.ExitCode == 0, await error);
        Assert.Equal("", await error);
        return JsonDocument.Parse(told).RootElement;
    }

    private static string[] Texts(JsonElement list) => [.. list.EnumerateArray().Select(item => item.ToString())];

    [Fact]
    public async Task An_editor_gets_findings_completion_meaning_places_renames_and_remedies()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write("app.yaml", App);
        folder.Write("about.md", "See [things](page:thing) and [all](page:things).\n");
        var told = await EditAsync(folder);

        // The text of about.md leads to a page that needs an ID.
        Assert.Equal(["JX411"], Texts(told.GetProperty("opened")));
        Assert.StartsWith("**thing**: detail of thing, `/things/{id}`", told.GetProperty("hover").GetString());
        Assert.Contains("`to`: The page it leads to.", told.GetProperty("hover").GetString());
        Assert.Contains("ordered by", told.GetProperty("meaning").GetString());
        Assert.Equal(
            """{"start":{"line":5,"character":2},"end":{"line":5,"character":7}}""",
            told.GetProperty("definition").GetProperty("range").ToString()
        );
        Assert.Equal(["6", "5"], Texts(told.GetProperty("references")));

        // A rename changes the Markdown file too, and nothing is written by the server.
        var renamed = told.GetProperty("renamed");
        Assert.Equal(
            App.Replace("to: thing }", "to: item }").Replace("  thing: {", "  item: {"),
            renamed.GetProperty("app.yaml").GetString()
        );
        Assert.Equal("See [things](page:item) and [all](page:things).\n", renamed.GetProperty("about.md").GetString());
        Assert.Equal(App, File.ReadAllText(folder.File("app.yaml")));
        Assert.Equal("Only names of pages and parameters can be renamed.", told.GetProperty("refused").GetString());

        Assert.Equal(["things", "thing", "about"], Texts(told.GetProperty("completion")));
        Assert.Equal("""["JX503",{"line":4,"character":84}]""", told.GetProperty("wrong")[0].ToString());
        Assert.Equal("""[["Write id",true]]""", told.GetProperty("actions").ToString());
        Assert.Equal(["id"], Texts(told.GetProperty("keys")));
        Assert.True(told.GetProperty("broken").GetBoolean());
        Assert.Equal(["JX411"], Texts(told.GetProperty("mended")));
        Assert.Equal(0, told.GetProperty("exit").GetInt32());
    }

    [Fact]
    public async Task An_editor_that_is_killed_leaves_no_server_behind()
    {
        using var server = Process.Start(
            new ProcessStartInfo("dotnet", [RunningService.Program, "language-server"])
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
            }
        )!;
        server.StandardInput.Close();
        await server.WaitForExitAsync(TestContext.Current.CancellationToken).WaitAsync(TimeSpan.FromSeconds(30));
        Assert.Equal(0, server.ExitCode);
    }
}
