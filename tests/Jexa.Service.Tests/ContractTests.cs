using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>The demo, and an app of awkward names and values, whose contracts are held against what they answer.</summary>
public sealed class ContractApps : IAsyncLifetime
{
    private readonly FrontDemo _demo = new();
    private readonly AppFolder _folder = new();
    private RunningService? _odd;

    internal RunningService ServiceOf(string app) => app == "demo" ? _demo.Service : _odd!;

    internal string FileOf(string app) => app == "demo" ? _demo.AppFile : _folder.File("app.yaml");

    public async ValueTask InitializeAsync()
    {
        await _demo.InitializeAsync();
        _folder.MakeDatabase(OddApp.Schema + OddApp.Rows);
        _odd = await RunningService.StartAsync("serve", _folder.Write("app.yaml", OddApp.Text), "--log", "none");
    }

    public async ValueTask DisposeAsync()
    {
        _odd?.Dispose();
        _folder.Dispose();
        await _demo.DisposeAsync();
    }
}

/// <summary>What generated clients and the OpenAPI document say is what happens.</summary>
public sealed class ContractTests(ContractApps apps) : IClassFixture<ContractApps>
{
    private static readonly string Tools = Repository.File("tests/clients");

    private static readonly string TypeScript = Repository.File("console/node_modules/typescript");

    /// <summary>A sample of every page that has one, with the calls that a developer would write.</summary>
    private async Task<List<(string Page, string Kind, string Address, string TypeScript, string CSharp)>> SamplesAsync(
        string app
    )
    {
        using var samples = JsonDocument.Parse(await RunningServiceApi.GetAsync(apps.ServiceOf(app), "api/samples"));
        using var pages = JsonDocument.Parse(await RunningServiceApi.GetAsync(apps.ServiceOf(app), "api/pages"));
        var kinds = pages
            .RootElement.EnumerateArray()
            .ToDictionary(page => page.GetProperty("name").GetString()!, page => page.GetProperty("kind").GetString()!);
        return
        [
            // The demo's page of trials is made to fail.
            .. from sample in samples.RootElement.EnumerateArray()
            let page = sample.GetProperty("page").GetString()!
            let calls = sample.GetProperty("calls")
            where sample.GetProperty("address").ValueKind == JsonValueKind.String && page != "trial"
            select (
                page,
                kinds[page],
                sample.GetProperty("address").GetString()!,
                calls.GetProperty("typeScript").GetString()!,
                calls.GetProperty("cSharp").GetString()!
            ),
        ];
    }

    [Theory]
    [InlineData("demo", 36)]
    [InlineData("odd", 10)]
    public async Task Every_page_is_loaded_and_saved_by_its_TypeScript_function(string app, int pages)
    {
        var samples = await SamplesAsync(app);
        Assert.True(samples.Count >= pages, $"Only {samples.Count} pages have samples.");
        using var folder = new AppFolder();
        Assert.Equal(
            0,
            (await RunningService.RunAsync("client", "typescript", apps.FileOf(app), "--out", folder.File("app.ts"))).ExitCode
        );
        var script = new StringBuilder(
            $$"""
            import { connect, pages } from './app.mjs';
            const service = connect('{{apps.ServiceOf(app).PagesUrl.TrimEnd('/')}}');
            const tell = (page, done) => { if (done.outcome !== 'found' && done.outcome !== 'saved') console.log(page, done.outcome, done.detail ?? ''); };

            """
        );
        foreach (var sample in samples)
        {
            var call = sample.TypeScript["const loaded = await ".Length..^2];
            script.AppendLine($"{{ {sample.TypeScript} tell('{sample.Page}', loaded);");
            if (sample.Kind == "edit")
                script.AppendLine(
                    $"tell('{sample.Page} save', await {call.Replace(".load(", ".save(")}, {{}}, loaded.version));"
                );
            script.AppendLine("}");
        }

        folder.Write("calls.mjs", script + "console.log('end');");
        Assert.Equal((0, ""), await StripAsync(folder, "app"));
        Assert.Equal((0, "end\n"), await RunAsync(folder.Path, "node", "calls.mjs"));
    }

    [Theory]
    [InlineData("demo")]
    [InlineData("odd")]
    public async Task Every_page_is_loaded_and_saved_by_its_CSharp_function(string app)
    {
        var samples = await SamplesAsync(app);
        using var folder = new AppFolder();
        Assert.Equal(
            0,
            (
                await RunningService.RunAsync(
                    "client",
                    "csharp",
                    apps.FileOf(app),
                    "--out",
                    folder.File("App.cs"),
                    "--namespace",
                    "App"
                )
            ).ExitCode
        );
        var calls = new StringBuilder();
        foreach (var sample in samples)
        {
            calls.AppendLine($"{{ {sample.CSharp} Tell(\"{sample.Page}\", loaded);");
            if (sample.Kind == "edit")
            {
                var page = sample.CSharp[
                    "var loaded = await ".Length..sample.CSharp.IndexOf(".LoadAsync(", StringComparison.Ordinal)
                ];
                var given = sample.CSharp[(sample.CSharp.IndexOf("(service", StringComparison.Ordinal) + 1)..^2];
                calls.AppendLine(
                    $"Kept(\"{sample.Page}\", await {page}.SaveAsync({given}, changes: new {page}.Changes(), "
                        + "version: VersionOf(loaded)));"
                );
            }

            calls.AppendLine("}");
        }

        folder.Write(
            "Program.cs",
            $$"""
            using App;
            var service = new Service(new HttpClient(new SocketsHttpHandler { UseProxy = false }), new Uri("{{apps.ServiceOf(
                app
            ).PagesUrl}}"));
            {{calls}}
            Console.WriteLine("end");
            static void Tell<T>(string page, Loaded<T> loaded) { if (loaded is not Loaded<T>.Found) Console.WriteLine($"{page}: {loaded}"); }
            static void Kept<T>(string page, Saved<T> saved) { if (saved is not Saved<T>.Done) Console.WriteLine($"{page} save: {saved}"); }
            static string VersionOf<T>(Loaded<T> loaded) => loaded is Loaded<T>.Found found ? found.Version ?? "" : "";
            """
        );
        File.Copy(Path.Combine(Tools, "made/made.csproj"), folder.File("calls.csproj"));
        Assert.Equal(
            (0, "end\n"),
            await RunAsync(
                folder.Path,
                "dotnet",
                "run",
                "--project",
                "calls.csproj",
                "-v",
                "quiet",
                "-p:TreatWarningsAsErrors=true"
            )
        );
    }

    [Theory]
    [InlineData("demo", 60)]
    [InlineData("odd", 12)]
    public async Task Every_live_answer_and_every_example_is_of_the_schema_that_describes_it(string app, int atLeast)
    {
        using var folder = new AppFolder();
        var document = await DocumentAsync(app, folder);
        var addresses = folder.Write(
            "answers.json",
            JsonSerializer.Serialize((await SamplesAsync(app)).Select(sample => sample.Address))
        );
        var (exit, told) = await RunAsync(
            folder.Path,
            "node",
            Path.Combine(Tools, "answers.mjs"),
            document,
            apps.ServiceOf(app).PagesUrl.TrimEnd('/'),
            addresses
        );
        Assert.True(exit == 0, told);
        Assert.InRange(int.Parse(told.Split('\n')[0], CultureInfo.InvariantCulture), atLeast, 9999);
    }

    [Theory]
    [InlineData("demo")]
    [InlineData("odd")]
    public async Task The_OpenAPI_document_is_valid_and_passes_a_general_linter(string app)
    {
        using var folder = new AppFolder();
        var document = await DocumentAsync(app, folder);
        Assert.Equal(
            (0, ""),
            await RunAsync(
                folder.Path,
                "node",
                "--input-type=module",
                "-e",
                $$"""
                import { readFileSync } from 'node:fs';
                const { Validator } = await import('{{Tools}}/node_modules/@seriousme/openapi-schema-validator/index.js');
                const told = await new Validator().validate(JSON.parse(readFileSync('{{document}}', 'utf8')));
                if (!told.valid) console.log(JSON.stringify(told.errors));
                """
            )
        );
        Assert.Equal((0, ""), await RunAsync(folder.Path, "node", Path.Combine(Tools, "lint.mjs"), document));
    }

    [Fact]
    public async Task Clients_of_four_general_generators_compile_and_load_a_list_a_record_and_an_error()
    {
        using var folder = new AppFolder();
        var document = await DocumentAsync("demo", folder);
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Tools, "made")))
            File.Copy(file, folder.File(Path.GetFileName(file)));
        Directory.CreateSymbolicLink(folder.File("node_modules"), Path.Combine(Tools, "node_modules"));
        await PassAsync(
            "node",
            Repository.File("console/node_modules/openapi-typescript/bin/cli.js"),
            document,
            "-o",
            "types.d.ts"
        );
        await PassAsync(
            "node",
            Path.Combine(Tools, "node_modules/swagger-typescript-api/dist/cli.mjs"),
            "generate",
            "-p",
            document,
            "-o",
            ".",
            "-n",
            "client.ts"
        );
        await PassAsync(
            "node",
            Path.Combine(Tools, "node_modules/@hey-api/openapi-ts/bin/run.js"),
            "-i",
            document,
            "-o",
            "whole",
            "--client",
            "@hey-api/client-fetch"
        );
        await PassAsync("node", Repository.File("console/node_modules/ts7/bin/tsc"), "-p", "tsconfig.json");

        var service = apps.ServiceOf("demo").PagesUrl.TrimEnd('/');
        folder.Write(
            "all.mjs",
            $$"""
            const { rolldown } = await import('{{Repository.File("console/node_modules/rolldown/dist/index.mjs")}}');
            for (const name of ['fetch', 'whole', 'classes']) {
              await (await rolldown({ input: name + '.ts', platform: 'node' })).write({ file: name + '.mjs', format: 'esm' });
              console.log((await (await import('./' + name + '.mjs')).told('{{service}}')).join('|'));
            }
            """
        );
        var first = (await apps.ServiceOf("demo").GetJsonAsync("/bridges?kind=arch")).Body;
        using var listed = JsonDocument.Parse(first);
        var expected = listed.RootElement.GetProperty("records")[0].GetProperty("id").GetString() + "|AV-0008|1|unknown\n";
        var (exit, told) = await RunAsync(folder.Path, "node", "all.mjs");
        Assert.True(exit == 0 && told.EndsWith(expected + expected + expected, StringComparison.Ordinal), told);

        File.Copy(Path.Combine(Tools, "dotnet-tools.json"), folder.File("dotnet-tools.json"));
        await PassAsync(
            "dotnet",
            "tool",
            "run",
            "nswag",
            "openapi2csclient",
            "/input:" + document,
            "/classname:Register",
            "/namespace:Made",
            "/output:Register.cs",
            "/jsonLibrary:SystemTextJson",
            "/generateNullableReferenceTypes:true"
        );
        Assert.Equal(
            (0, expected),
            await RunAsync(folder.Path, "dotnet", "run", "--project", "made.csproj", "-v", "quiet", "--", service)
        );

        async Task PassAsync(string program, params string[] arguments)
        {
            var (code, said) = await RunAsync(folder.Path, program, arguments);
            Assert.True(code == 0, said);
        }
    }

    [Theory]
    [InlineData("demo")]
    [InlineData("odd")]
    public async Task Every_page_passes_a_general_checker_of_HTML(string app)
    {
        using var folder = new AppFolder();
        Directory.CreateDirectory(folder.File("pages"));
        var service = apps.ServiceOf(app);
        var targets = (await SamplesAsync(app)).Select(sample => sample.Address);
        if (app == "demo")
            targets =
            [
                .. targets,
                "/bridges/99999",
                "/bridges/x",
                "/nothing",
                "/bridges?kind=wrong",
                "/inspections/new?bridge=7",
                "/defects/new",
                "/lookup",
            ];
        var count = 0;
        foreach (var target in targets)
        {
            var answer = await service.GetAsync(target, "Accept: text/html\r\n");
            if (answer.Header("Content-Type")?.StartsWith("text/html", StringComparison.Ordinal) == true)
                folder.Write($"pages/{count++:000}.html", $"{answer.Body}<!-- {target} -->\n");
        }

        Assert.InRange(count, app == "demo" ? 40 : 10, 99);
        Assert.Equal((0, ""), await RunAsync(folder.Path, "node", Path.Combine(Tools, "markup.mjs"), folder.File("pages")));
    }

    private async Task<string> DocumentAsync(string app, AppFolder folder)
    {
        var service = apps.ServiceOf(app);
        var answer = await service.GetAsync("/_jexa/app/openapi.json");
        Assert.Equal(200, answer.Status);
        Assert.Equal(
            304,
            (await service.GetAsync("/_jexa/app/openapi.json", $"If-None-Match: {answer.Header("ETag")}\r\n")).Status
        );
        return folder.Write("openapi.json", answer.Body);
    }

    /// <summary>Takes the types away from a file of TypeScript: <c>name.ts</c> becomes <c>name.mjs</c>.</summary>
    private static Task<(int ExitCode, string Told)> StripAsync(AppFolder folder, string name) =>
        RunAsync(
            folder.Path,
            "node",
            "--input-type=commonjs",
            "-e",
            $$"""
            const ts = require('{{TypeScript}}'), fs = require('fs');
            const options = { compilerOptions: { target: 'ES2022', module: 'ESNext' } };
            fs.writeFileSync('{{name}}.mjs', ts.transpileModule(fs.readFileSync('{{name}}.ts', 'utf8'), options).outputText);
            """
        );

    private static async Task<(int ExitCode, string Told)> RunAsync(string folder, string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments)
            {
                WorkingDirectory = folder,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var told = await process.StandardOutput.ReadToEndAsync() + await error;
        await process.WaitForExitAsync();
        return (process.ExitCode, told);
    }
}
