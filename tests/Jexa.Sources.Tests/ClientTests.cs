using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Service.Clients;
using Jexa.Sources.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>
/// Files of typed code that are written from sites: that they compile whatever things are called, that misuse does not, and that
/// screens are never stale.
/// </summary>
public sealed class ClientTests
{
    private static readonly string Compiler = Repository.File("console/node_modules/ts7/bin/tsc");

    private static async Task<Site> SiteAsync(string folder, string schema, string app, string mount = "")
    {
        using (var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={folder}/data.db;Pooling=False"))
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = schema;
            command.ExecuteNonQuery();
        }

        var sources = new SourceRegistry([new SqliteEngine()]);
        var compilation = await new SiteCompiler(sources, _ => null, Mount.Parse(mount) ?? Mount.Root).CompileAsync(
            Path.Combine(folder, "app.yaml"),
            Encoding.UTF8.GetBytes(app),
            CancellationToken.None
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        await sources.DisposeAsync();
        return compilation.Site;
    }

    /// <summary>The compiler's errors over some files, with every strictness that a front end may have.</summary>
    private static async Task<string> TypesAsync(string folder, params string[] files)
    {
        await File.WriteAllTextAsync(
            Path.Combine(folder, "tsconfig.json"),
            $$"""
            { "compilerOptions": { "strict": true, "noUnusedLocals": true, "noUnusedParameters": true, "noFallthroughCasesInSwitch": true, "allowUnreachableCode": false, "erasableSyntaxOnly": true, "noUncheckedIndexedAccess": true, "exactOptionalPropertyTypes": true, "noPropertyAccessFromIndexSignature": true, "noImplicitReturns": true, "noImplicitOverride": true, "verbatimModuleSyntax": true, "isolatedModules": true,
              "allowImportingTsExtensions": true, "noEmit": true, "target": "ES2022", "module": "ESNext", "moduleResolution": "bundler", "lib": ["ES2022", "DOM"], "types": [] }, "files": [{{string.Join(
                ", ",
                files.Select(file => $"\"{file}\"")
            )}}] }
            """
        );
        return (await Node.RunAsync("node", [Compiler, "-p", folder])).Out;
    }

    [Fact]
    public async Task Whatever_pages_parameters_and_fields_are_called_it_compiles()
    {
        using var folder = new Scratch();
        var site = await SiteAsync(folder.Path, OddApp.Schema, OddApp.Text);
        File.WriteAllText(folder.File("odd.ts"), TypeScriptWriter.Write(site));
        Assert.Equal("", await TypesAsync(folder.Path, "odd.ts"));
        Directory.CreateDirectory(folder.File("cs"));
        File.WriteAllText(folder.File("cs/Odd.cs"), CSharpWriter.Write(site, null));
        File.WriteAllText(
            folder.File("cs/odd.csproj"),
            "<Project Sdk=\"Microsoft.NET.Sdk\"><PropertyGroup>"
                + "<TargetFramework>net10.0</TargetFramework><NuGetAudit>false</NuGetAudit>"
                + "<Nullable>enable</Nullable><TreatWarningsAsErrors>true</TreatWarningsAsErrors>"
                + "<AnalysisLevel>latest-recommended</AnalysisLevel><IsAotCompatible>true</IsAotCompatible>"
                + "</PropertyGroup></Project>"
        );
        var built = await Node.RunAsync("dotnet", ["build", folder.File("cs/odd.csproj"), "--nologo", "-v", "quiet"]);
        Assert.True(built.ExitCode == 0, built.Out);
    }

    [Fact]
    public async Task What_is_written_is_the_same_each_time_and_changes_where_the_app_does()
    {
        using var folder = new Scratch();
        var site = await SiteAsync(folder.Path, OddApp.Schema, OddApp.Text);
        var again = await SiteAsync(folder.Path, "SELECT 1", OddApp.Text);
        Assert.Equal(TypeScriptWriter.Write(site), TypeScriptWriter.Write(again));
        Assert.Equal(CSharpWriter.Write(site, null), CSharpWriter.Write(again, null));
        var changed = await SiteAsync(
            folder.Path,
            "SELECT 1",
            OddApp.Text.Replace("Page: { path: /page, text", "Page: { path: /pages, text")
        );
        string[] Lines(Site one) => TypeScriptWriter.Write(one).Split('\n');
        Assert.InRange(Lines(site).Zip(Lines(changed)).Count(pair => pair.First != pair.Second), 1, 5);
    }

    /// <summary>Each line below a remark must not compile: the compiler complains of a remark that nothing deserves.</summary>
    private const string Misuse = """
        import { connect, pages, read, watch } from "./vectors.ts";
        const service = connect();
        export const used = [read, watch];
        // @ts-expect-error a parameter is lacking
        pages.thing.address({});
        // @ts-expect-error under another spelling
        pages.thing.address({ ID: 7 });
        // @ts-expect-error of another type
        pages.thing.address({ id: "7" });
        // @ts-expect-error one too many
        pages.thing.address({ id: 7, kind: "a" });
        // @ts-expect-error no day
        pages.day.address({ day: "yesterday" });
        // @ts-expect-error no month
        pages.ofMonth.address({ year: 2024, month: 13 });
        // @ts-expect-error none of the words
        pages.things.address({ state: "full" });
        // @ts-expect-error several if one is taken
        pages.lookup.address({ code: ["AV-0007"] });
        // @ts-expect-error no such order
        pages.things.address({ order: "colour" });
        // @ts-expect-error a list cannot be saved
        pages.things.save(service, {}, {}, "*");
        // @ts-expect-error no such field
        void pages.thingEdit.save(service, { id: 7 }, { colour: "red" }, "*");
        // @ts-expect-error a field of another type
        void pages.thingEdit.save(service, { id: 7 }, { kind: 7 }, "*");
        // @ts-expect-error a required field is lacking
        void pages.thingNew.add(service, {}, { kind: "a" });
        const loaded = await pages.thing.load(service, { id: 7 });
        // @ts-expect-error nothing is there before the outcome has been looked at
        loaded.value;
        // @ts-expect-error no such page
        watch(service, ["thyng"]);
        const where = read("/things/7");
        // @ts-expect-error not every address has an ID
        where.parameters.id;

        // What is meant compiles, and a switch that forgets an outcome does not.
        const address: string = pages.things.address({ kind: ["a"], state: "empty", find: "x", order: "-code", size: 20 });
        if (where.outcome === "page" && where.page === "thing") address.concat(String(where.parameters.id));
        function told(): string {
          switch (loaded.outcome) {
            case "found": return loaded.value.fields.code;
            case "missing": case "malformed": return loaded.parameter ?? "";
            case "unknown": case "gone": case "ambiguous": case "failed": case "no-page": case "not-allowed": case "strange": return loaded.detail;
            case "unavailable": return String(loaded.after);
            case "offline": return "";
          }
        }
        // @ts-expect-error "unknown" is forgotten
        function forgetful(): string {
          switch (loaded.outcome) {
            case "found": return loaded.value.fields.code;
            case "missing": case "malformed": return loaded.parameter ?? "";
            case "gone": case "ambiguous": case "failed": case "no-page": case "not-allowed": case "strange": return loaded.detail;
            case "unavailable": return String(loaded.after);
            case "offline": return "";
          }
        }
        void told; void forgetful;
        """;

    [Fact]
    public async Task What_is_wrong_forgotten_or_mistyped_does_not_compile()
    {
        using var folder = new Scratch();
        File.Copy(Repository.File("tests/vectors/vectors.ts"), folder.File("vectors.ts"));
        File.WriteAllText(folder.File("misuse.ts"), Misuse);
        Assert.Equal("", await TypesAsync(folder.Path, "misuse.ts"));
    }

    [Fact]
    public async Task Below_a_prefix_addresses_begin_with_it()
    {
        using var folder = new Scratch();
        var site = await SiteAsync(folder.Path, OddApp.Schema, OddApp.Text, "/under/it");
        File.WriteAllText(folder.File("odd.ts"), TypeScriptWriter.Write(site));
        var ran = await Node.RunAsync(
            folder.File("odd.ts"),
            """
            const is = (got, wanted) => { if (JSON.stringify(got) !== JSON.stringify(wanted)) { console.log(got, "not", wanted); process.exit(1); } };
            const detail = Object.values(client.pages).find((page) => page.name === "bridgeEdit");
            is(detail.address({ cancellation: 7 }), "/under/it/plain/7");
            is(client.read("/under/it/plain/7").page, "bridgeEdit");
            is(client.read("/plain/7").outcome, "no-page");
            is(client.read("/under/it").page, client.read("/under/it/").page);
            """
        );
        Assert.True(ran.ExitCode == 0, ran.Out);
    }

    /// <summary>A service that answers each request when it is told to, in whatever order.</summary>
    private const string Harness = """
        const json = (body, status = 200, headers = {}) => new Response(JSON.stringify(body), { status, headers: { "content-type": status < 400 ? "application/json" : "application/problem+json", ...headers } });
        const thing = (id) => ({ outcome: "found", page: "thing", title: `Thing ${id}`, id: String(id), address: `/things/${id}`, fields: { id, name: null, code: `AV-${id}`, kind: null, made_on: "2024-01-01", size: null, small: null }, links: [], prev: null, next: null });
        let open = [];
        const serve = (url, { signal } = {}) => new Promise((resolve, reject) => {
          const request = { url, resolve, reject, aborted: false };
          signal?.addEventListener("abort", () => { request.aborted = true; reject(new DOMException("aborted", "AbortError")); });
          open.push(request);
        });
        const service = client.connect("http://x", serve);
        const settle = () => new Promise((resolve) => setTimeout(resolve, 0));
        const is = (what, got, wanted) => { if (JSON.stringify(got) !== JSON.stringify(wanted)) { console.log(what, JSON.stringify(got), "not", JSON.stringify(wanted)); process.exit(1); } };
        const idOf = (url) => Number(/things\/(\d+)/.exec(url)[1]);
        """;

    [Fact]
    public async Task A_thousand_changes_of_address_with_answers_in_any_order_show_nothing_stale()
    {
        var ran = await Node.RunAsync(
            Repository.File("tests/vectors/vectors.ts"),
            Harness
                + """
                let seed = 7;
                const random = (below) => { seed = (seed + 0x6d2b79f5) | 0; let t = Math.imul(seed ^ (seed >>> 15), 1 | seed); t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t; return ((t ^ (t >>> 14)) >>> 0) % below; };
                const watcher = client.watch(service, ["thing"], { grace: 1 });
                let asked = 0, shown = 0, wrong = 0;
                watcher.subscribe(() => {
                  const now = watcher.state;
                  if (now.outcome === "found") { shown++; if (now.value.id !== String(asked) || now.asked !== `/things/${asked}` || now.parameters.id !== asked) wrong++; }
                  else if ("asked" in now && now.asked !== `/things/${asked}`) wrong++;
                });
                const answer = (request) => random(10) === 0 ? (random(2) ? request.reject(new TypeError("network")) : request.resolve(json({ outcome: "unavailable", detail: "away", links: [] }, 503, { "retry-after": "7" }))) : request.resolve(json(thing(idOf(request.url))));
                for (let i = 1; i <= 1000; i++) {
                  asked = 1 + random(50);
                  watcher.go(`/things/${asked}`);
                  for (let n = random(4); n > 0 && open.length > 0; n--) answer(open.splice(random(open.length), 1)[0]);
                  if (random(2) === 0) { await settle(); await settle(); }
                  if (random(20) === 0) watcher.again();
                }
                while (open.length > 0) { answer(open.splice(random(open.length), 1)[0]); await settle(); }
                await settle();
                console.log(`${shown} shown, ${wrong} wrong`);
                is("wrong", wrong, 0);
                if (shown < 20) process.exit(1);
                is("end", ["found", "offline", "unavailable"].includes(watcher.state.outcome), true);
                """
        );
        Assert.True(ran.ExitCode == 0, ran.Out);
    }

    [Fact]
    public async Task A_watcher_begins_nothing_twice_tells_what_it_must_and_cleans_up_after_itself()
    {
        var ran = await Node.RunAsync(
            Repository.File("tests/vectors/vectors.ts"),
            Harness
                + """
                const seen = [];
                const watcher = client.watch(service, ["thing"], { grace: 20, first: { address: "/things/1", answer: thing(1) } });
                const leave = watcher.subscribe(() => seen.push(watcher.state.outcome));
                is("at first", watcher.state, { outcome: "idle" });

                // What came with the page itself is not asked for.
                watcher.go("/things/1");
                await settle();
                is("handed over", [watcher.state.outcome, watcher.state.value.id, open.length], ["found", "1", 0]);
                watcher.go("/things/2"); watcher.go("/things/2");
                is("begun once", open.length, 1);
                is("nothing stale", watcher.state, { outcome: "waiting", asked: "/things/2" });
                await new Promise((resolve) => setTimeout(resolve, 40));
                is("slow", watcher.state.outcome, "loading");
                watcher.go("/things/3");
                is("the earlier one is ended", open[0].aborted, true);
                open[1].resolve(json(thing(3)));
                await settle();
                is("quick", seen, ["waiting", "found", "waiting", "loading", "waiting", "found"]);

                // Prefetched: asked for once, shown at once.
                open = [];
                watcher.prefetch("/things/4"); watcher.prefetch("/things/4");
                is("prefetched once", open.length, 1);
                open[0].resolve(json(thing(4)));
                await settle();
                watcher.go("/things/4");
                await settle();
                is("from the prefetch", [watcher.state.value.id, open.length], ["4", 1]);

                // Every outcome, and what is no answer of this app.
                const cases = [
                  [json({ outcome: "unknown", detail: "There is none.", links: [] }, 404), "unknown"], [json({ outcome: "gone", detail: "Gone.", links: [] }, 410), "gone"],
                  [json({ outcome: "ambiguous", detail: "Two." }, 500), "ambiguous"], [json({ outcome: "malformed", parameter: "id", detail: "No." }, 400), "malformed"],
                  [new Response("<h1>Hello</h1>", { headers: { "content-type": "text/html" } }), "strange"], [json({ ...thing(5), page: "word" }), "strange"], [json({ ...thing(5), fields: { id: 5 } }), "strange"],
                  [new Response('{"outcome": "fou', { headers: { "content-type": "application/json" } }), "strange"], [json({ outcome: "sideways" }, 418), "strange"], [json(["found"]), "strange"],
                ];
                for (const [i, [response, outcome]] of cases.entries()) {
                  open = [];
                  watcher.go(`/things/${100 + i}`);
                  open[0].resolve(response);
                  await settle(); await settle();
                  is(`case ${i}`, watcher.state.outcome, outcome);
                }
                watcher.go("/words/a");
                await settle();
                is("a page that is not watched", watcher.state.outcome, "no-page");

                // Away and back.
                open = [];
                watcher.go("/things/6");
                open[0].reject(new TypeError("network"));
                await settle();
                is("offline", watcher.state.outcome, "offline");
                watcher.again();

                // What the server takes for the time is nobody's business here.
                open[1].resolve(json(thing(6), 200, { date: "Mon, 01 Jan 1990 00:00:00 GMT", "cache-control": "max-age=60", expires: "Thu, 01 Jan 2099 00:00:00 GMT" }));
                await settle();
                is("back", watcher.state.value.id, "6");

                // A whole number that no double holds arrives whole.
                open = [];
                watcher.go("/things/9007199254740993");
                open[0].resolve(new Response(JSON.stringify(thing(7)).replace('"id":7', '"id":9007199254740993'), { headers: { "content-type": "application/json" } }));
                await settle(); await settle();
                is("unrounded", [watcher.state.outcome, String(watcher.state.value.fields.id), String(watcher.state.parameters.id)], ["found", "9007199254740993", "9007199254740993"]);

                leave();
                const count = seen.length;
                open = [];
                watcher.go("/things/8");
                watcher.close();
                is("ended", open[0].aborted, true);
                watcher.go("/things/9");
                await settle();
                is("nobody is told any more", [seen.length, open.length], [count, 1]);
                """
        );
        Assert.True(ran.ExitCode == 0, ran.Out);
    }

    [Fact]
    public async Task Loads_are_ended_by_their_signal_and_saves_tell_each_fault_at_its_field()
    {
        var ran = await Node.RunAsync(
            Repository.File("tests/vectors/vectors.ts"),
            Harness
                + """
                const stop = new AbortController();
                const loading = client.pages.thing.load(service, { id: 7 }, { signal: stop.signal });
                stop.abort();
                is("ended", await loading.catch((error) => error.name), "AbortError");
                let sent;
                const saving = client.connect("http://x/", async (url, init) => { sent = { url, ...init }; return sent.answer ?? json({ outcome: "invalid", detail: "Two things.", errors: [{ pointer: "#/fields/size", detail: "Too large." }, { pointer: "#", detail: "Together wrong." }] }, 422); });
                const saved = await client.pages.thingEdit.save(saving, { id: 7 }, { small: 9007199254740993n, name: null }, '"v1"');
                is("faults", saved.faults, [{ field: "size", detail: "Too large." }, { field: null, detail: "Together wrong." }]);
                is("sent", [sent.url, sent.method, sent.headers["if-match"], sent.headers["content-type"], sent.body], ["http://x/things/7/edit", "PATCH", '"v1"', "application/merge-patch+json", '{"fields":{"small":9007199254740993,"name":null}}']);
                """
        );
        Assert.True(ran.ExitCode == 0, ran.Out);
    }

    [Fact]
    public async Task The_watcher_adds_less_than_three_kilobytes()
    {
        using var folder = new Scratch();
        File.Copy(Repository.File("tests/vectors/vectors.ts"), folder.File("vectors.ts"));
        File.WriteAllText(
            folder.File("without.ts"),
            "import { connect, pages, read } from './vectors.ts'; globalThis.all = [connect, pages, read];"
        );
        File.WriteAllText(
            folder.File("with.ts"),
            "import { connect, pages, read, watch } from './vectors.ts'; globalThis.all = [connect, pages, read, watch];"
        );
        File.WriteAllText(
            folder.File("size.mjs"),
            $$"""
            import { gzipSync } from "node:zlib";
            const { rolldown } = await import({{System.Text.Json.JsonSerializer.Serialize(
                Repository.File("console/node_modules/rolldown/dist/index.mjs")
            )}});
            const sizes = [];
            for (const entry of ["without.ts", "with.ts"]) {
              const bundle = await rolldown({ input: new URL(entry, import.meta.url).pathname });
              sizes.push(gzipSync((await bundle.generate({ minify: true })).output[0].code).length);
            }
            console.log(sizes[1] - sizes[0]);
            """
        );
        var ran = await Node.RunAsync("node", [folder.File("size.mjs")]);
        Assert.True(int.TryParse(ran.Out.Trim().Split('\n')[^1], out var added), ran.Out);
        Assert.InRange(added, 100, 3000);
    }

    private sealed class Scratch : IDisposable
    {
        public string Path { get; } = Directory.CreateTempSubdirectory("jexa-client-").FullName;

        public string File(string name) => System.IO.Path.Combine(Path, name);

        public void Dispose() => Directory.Delete(Path, recursive: true);
    }
}
