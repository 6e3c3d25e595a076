using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Sites;
using Jexa.Sources.Files;

namespace Jexa.Sources.Tests;

/// <summary>A folder of files as a source: what is read from them, what is said of them, what becomes of changes.</summary>
public sealed class FilesTests : IAsyncDisposable
{
    private const string App = """
        app: Files
        sources: { s: { engine: files, connection: data } }
        records:
          station: { from: s.stations, key: code, label: name }
        pages:
          stations: { path: "/stations{?open}", list: station, show: [name], where: { open: "{open}" }, order: [level_m] }
          station: { path: "/stations/{id}", detail: station, show: [code, name, level_m, opened_on, note, open] }
        """;

    private readonly string _folder = Directory.CreateTempSubdirectory("jexa-files-").FullName;
    private readonly ServedApp _served;

    public FilesTests()
    {
        Directory.CreateDirectory(Path.Combine(_folder, "data"));
        _served = new ServedApp(Path.Combine(_folder, "app.yaml"), _ => null, new FilesEngine());
    }

    public async ValueTask DisposeAsync()
    {
        await _served.DisposeAsync();
        Directory.Delete(_folder, recursive: true);
    }

    private void Write(string name, string text, Encoding? encoding = null) =>
        File.WriteAllText(Path.Combine(_folder, "data", name), text, encoding ?? new UTF8Encoding(false));

    private Task<Compilation> CompileAsync(string app = App) => _served.CompileAsync(app);

    private Task<Site> SiteAsync(string app = App) => _served.SiteAsync(app);

    private Task<string> VisitAsync(Site site, string target) => _served.VisitAsync(site, target);

    private const string Stations =
        "code,name,level_m,opened_on,note,open\r\nS-1,\"Mill, upper\",1.50,2001-02-03,\"two\r\nlines "
        + "\"\"quoted\"\"\",true\r\nS-2,Weir,0.5,,,false\r\n\r\n007,Løkke,12,1999-12-31,,true\r\n";

    [Fact]
    public async Task Quotes_line_breaks_and_empty_values_are_read_as_they_are_meant()
    {
        Write("stations.csv", Stations);
        var site = await SiteAsync();
        Assert.Empty(site.Wrong());
        Assert.Equal(
            "S-1 | Mill, upper | 1.5 | 3 February 2001 | two\r\nlines \"quoted\" | Yes",
            await VisitAsync(site, "/stations/S-1")
        );
        Assert.Equal("007 | Løkke | 12 | 31 December 1999 |  | Yes", await VisitAsync(site, "/stations/007"));
        Assert.Equal("unknown 404", await VisitAsync(site, "/stations/7"));
        Assert.Equal("Weir Mill, upper Løkke", await VisitAsync(site, "/stations"));
        Assert.Equal("Mill, upper Løkke", await VisitAsync(site, "/stations?open=true"));
    }

    [Fact]
    public async Task Names_of_files_and_columns_never_meet_those_of_indexes()
    {
        // Columns and tables are called what an index could be called: of a key, or of a column that tells rows apart.
        Write("t.csv", "key,val\n1,a\n2,b\n");
        Write("t key.csv", "key,a\n1,x\n2,y\n");
        Write("t val.csv", "key,val key\n1,x\n2,y\n");
        var site = await SiteAsync(
            """
            app: Files
            sources: { s: { engine: files, connection: data } }
            records: { t: { from: s.t, key: key }, u: { from: "s.t key", key: key }, v: { from: "s.t val", key: key } }
            pages:
              t: { path: "/t/{key}", detail: t, show: [key, val] }
              u: { path: "/u/{key}", detail: u, show: [key, a] }
              v: { path: "/v/{key}", detail: v, show: [key, "val key"] }
            """
        );
        Assert.Equal("2 | b", await VisitAsync(site, "/t/2"));
        Assert.Equal("2 | y", await VisitAsync(site, "/u/2"));
        Assert.Equal("2 | y", await VisitAsync(site, "/v/2"));
    }

    [Theory]
    [InlineData(";")]
    [InlineData("\t")]
    [InlineData("|")]
    public async Task Other_separators_byte_order_marks_and_UTF16_are_recognised(string separator)
    {
        var text =
            $"code{separator}name{separator}level_m{separator}opened_on{separator}note{separator}open\nS-1{separator}Møll, "
            + $"a{separator}1.5{separator}{separator}{separator}true\n";
        foreach (var encoding in new Encoding[] { new UTF8Encoding(true), Encoding.Unicode, Encoding.BigEndianUnicode })
        {
            Write("stations.csv", text, encoding);
            Assert.StartsWith("S-1 | Møll, a | 1.5", await VisitAsync(await SiteAsync(), "/stations/S-1"));
        }
    }

    [Theory]
    [InlineData("code,name\nS-1,\"Mill\nS-2,Weir\n", "stations.csv, line 2: the quotation marks do not come in pairs.")]
    [InlineData("code,name\nS-1,Mill\nS-2\n", "stations.csv, line 3: there are 1 values, and 2 columns.")]
    [InlineData("code,name\nS-1,Mi\"ll\n", "stations.csv, line 2: the quotation marks do not come in pairs.")]
    [InlineData("code,,name\n", "stations.csv, line 1: column 2 has no name.")]
    [InlineData("code,Code\n", "stations.csv, line 1: two columns are called code.")]
    [InlineData("", "stations.csv is empty.")]
    public async Task A_file_that_cannot_be_read_is_named_with_the_line(string text, string sentence)
    {
        Write("stations.csv", text);
        Write("others.csv", "code,name\n1,one\n");
        var compilation = await CompileAsync();
        var finding = Assert.Single(compilation.Findings, finding => finding.Code.Id == "JX206");
        Assert.Equal(sentence, finding.Message);
        Assert.NotEmpty(finding.Remedy);

        // The files beside it are served.
        Assert.Equal(
            "one",
            await VisitAsync(
                await SiteAsync(
                    App.Replace("s.stations", "s.others")
                        .Replace(", where: { open: \"{open}\" }, order: [level_m]", "")
                        .Replace("{?open}", "")
                        .Replace("[code, name, level_m, opened_on, note, open]", "[name]")
                ),
                "/stations/1"
            )
        );
    }

    [Fact]
    public async Task Bytes_of_another_encoding_are_named_with_their_line()
    {
        File.WriteAllBytes(Path.Combine(_folder, "data", "stations.csv"), [.. "code,name\nS-1,Mill\nS-2,W"u8, 0xe9, .. "ir\n"u8]);
        Assert.Contains((await CompileAsync()).Findings, finding =>
            finding.Message == "stations.csv, line 3: there are bytes that are not UTF-8."
        );
    }

    [Fact]
    public async Task Values_of_another_type_than_the_rest_stay_texts_and_are_named_with_their_lines()
    {
        Write(
            "stations.csv",
            "code,name,level_m,opened_on,note,open\n"
                + string.Concat(
                    Enumerable.Range(1, 60).Select(i => $"S-{i},Station {i},{(i == 17 ? "n/a" : $"{i}.5")},2001-01-01,,true\n")
                )
        );
        var compilation = await CompileAsync();
        var finding = Assert.Single(compilation.Findings, finding => finding.Code.Id == "JX207");
        Assert.Equal(
            "stations: The column level_m holds numbers, but “n/a” in line 18: they are shown as the texts they are.",
            finding.Message
        );
        Assert.StartsWith("S-17 | Station 17 | n/a", await VisitAsync(compilation.Site!, "/stations/S-17"));
        Assert.StartsWith("S-18 | Station 18 | 18.5", await VisitAsync(compilation.Site!, "/stations/S-18"));
    }

    [Fact]
    public async Task A_key_that_stands_twice_is_told_with_its_lines_and_a_place_is_never_a_key()
    {
        Write("stations.csv", Stations + "S-2,Again,3,,,true\n");
        var finding = Assert.Single((await CompileAsync()).Findings, finding => finding.Code.Id == "JX303");
        Assert.Equal("code of stations is no key: “S-2” stands in line 4 and line 7.", finding.Message);
        Assert.Equal("ambiguous 500", await VisitAsync(await SiteAsync(), "/stations/S-2"));
        var lacking = Assert.Single((await CompileAsync(App.Replace(", key: code", ""))).Findings, finding =>
            finding.Code.Id == "JX302"
        );
        Assert.Contains("A row's place in its file is no key", lacking.Message);
        Write("stations.csv", "code,name,level_m,opened_on,note,open\nS-1,A,1,,,true\n,B,2,,,true\n");
        Assert.Contains((await CompileAsync()).Findings, finding =>
            finding.Message == "code of stations is no key: it is empty in line 3."
        );
    }

    [Fact]
    public async Task Changed_files_are_taken_up_as_a_whole_or_not_at_all()
    {
        Write("stations.csv", Stations);
        var site = await SiteAsync();
        Assert.Equal("Weir Mill, upper Løkke", await VisitAsync(site, "/stations"));
        Write("stations.csv", Stations.Replace("Weir", "Sluice"));
        await Eventually.TrueAsync(async () => await VisitAsync(site, "/stations") == "Sluice Mill, upper Løkke");
        Write("stations.csv", Stations.Replace("Weir", "\"Half"));
        await Task.Delay(700, TestContext.Current.CancellationToken);
        for (var i = 0; i < 3; i++)
            Assert.Equal("Sluice Mill, upper Løkke", await VisitAsync(site, "/stations"));
        Assert.Contains((await CompileAsync()).Findings, finding =>
            finding.Message.EndsWith("What was read before is still served.", StringComparison.Ordinal)
        );
        File.Delete(Path.Combine(_folder, "data", "stations.csv"));
        Write("stations.csv", Stations.Replace("Weir", "Lock"));
        await Eventually.TrueAsync(async () => await VisitAsync(site, "/stations") == "Lock Mill, upper Løkke");
    }

    [Theory]
    [InlineData(
        """[{"code": "S-1", "name": "Mill", "level_m": 1.5, "open": true, "more": {"a": [1]}}, {"code": "S-2", "name": null}]"""
    )]
    [InlineData(
        """{"count": 2, "stations": [{"code": "S-1", "name": "Mill", "level_m": 1.5, "open": true, "more": {"a": [1]}}, {"code": "S-2"}]}"""
    )]
    public async Task Arrays_of_objects_are_read_alone_and_within_an_object(string json)
    {
        Write("stations.json", json);
        var site = await SiteAsync(App.Replace("code, name, level_m, opened_on, note, open", "code, name, level_m, open, more"));
        Assert.Equal("S-1 | Mill | 1.5 | Yes | {\"a\": [1]}", await VisitAsync(site, "/stations/S-1"));
        Assert.StartsWith("S-2 | ", await VisitAsync(site, "/stations/S-2"));
    }

    [Fact]
    public async Task Digits_with_zeros_before_them_make_a_column_text_however_few_they_are()
    {
        Write(
            "stations.csv",
            "code,name,level_m,opened_on,note,open\n"
                + string.Join("\n", Enumerable.Range(1, 60).Select(i => $"S-{i},N,1,,{(i == 7 ? "007" : i)},true"))
        );
        Assert.Equal("S-7 | N | 1 |  | 007 | Yes", await VisitAsync(await SiteAsync(), "/stations/S-7"));
        Assert.Empty((await CompileAsync()).Wrong());
    }

    [Fact]
    public async Task Members_of_an_object_are_records_called_by_their_names()
    {
        Write("stations.json", """{"S-1": {"name": "Mill", "level_m": 1}, "S/2": {"name": "Weir", "level_m": 2}}""");
        var site = await SiteAsync(
            App.Replace("key: code", "key: key")
                .Replace("[code, name, level_m, opened_on, note, open]", "[key, name]")
                .Replace("{?open}", "")
                .Replace(", where: { open: \"{open}\" }", "")
        );
        Assert.Equal("S/2 | Weir", await VisitAsync(site, "/stations/S%2F2"));
        Write("stations.json", "{\"S-1\": \n {\"name\": }}");
        Assert.Contains((await CompileAsync()).Findings, finding =>
            finding.Message.StartsWith("stations.json, line 2: it is not JSON.", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_folder_that_is_not_there_is_away_and_files_are_never_written()
    {
        Directory.Delete(Path.Combine(_folder, "data"));
        Assert.Contains((await CompileAsync()).Findings, finding =>
            finding.Code.Id == "JX203" && finding.Message.Contains("There is no folder data.")
        );
        Directory.CreateDirectory(Path.Combine(_folder, "data"));
        Write("stations.csv", Stations);
        var compilation = await CompileAsync(App + "\n  edit: { path: \"/stations/{id}/edit\", edit: station }\n");
        Assert.Contains(compilation.Findings, finding => finding.Message.Contains("files are only read"));
    }
}
