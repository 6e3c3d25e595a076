using System.Collections;
using System.Diagnostics;
using System.Globalization;
using System.Reflection;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Contracts;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Clients;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>
/// One file of addresses and what they mean, made by Core, held against the service's own visits, the TypeScript and the C# that
/// are written for the same app. <c>JEXA_WRITE=1</c> writes the file and both clients anew.
/// </summary>
public sealed class VectorTests : IAsyncLifetime
{
    private static readonly string Folder = Path.Combine(Repository.Root, "tests/vectors");
    private static readonly bool Writes = Environment.GetEnvironmentVariable("JEXA_WRITE") == "1";

    private static readonly JsonSerializerOptions Json = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        Encoder = JavaScriptEncoder.Default,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    private readonly string _database = Directory.CreateTempSubdirectory("jexa-vectors-").FullName;
    private readonly SourceRegistry _sources = new([new SqliteEngine()]);
    private Site _site = null!;

    /// <param name="Values">The texts of each parameter that is given.</param>
    /// <param name="Address">Null where no address can carry them.</param>
    private sealed record BuildVector(string Page, Dictionary<string, string[]> Values, string? Address);

    /// <param name="Outcome">page, no-page, malformed or missing.</param>
    private sealed record ReadVector(
        string Address,
        string Outcome,
        string? Page,
        string? Parameter,
        Dictionary<string, string[]>? Values,
        bool? Canonical,
        string? Written
    );

    /// <param name="Kinds">What each parameter of each page is.</param>
    private sealed record Vectors(
        Dictionary<string, Dictionary<string, string>> Kinds,
        List<BuildVector> Build,
        List<ReadVector> Read
    );

    public async ValueTask InitializeAsync()
    {
        using (var connection = new SqliteConnection($"Data Source={_database}/vectors.db;Pooling=False"))
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = await File.ReadAllTextAsync(Path.Combine(Folder, "schema.sql"));
            command.ExecuteNonQuery();
        }

        var compilation = await new SiteCompiler(_sources, _ => null, Mount.Root).CompileAsync(
            Path.Combine(_database, "app.yaml"),
            await File.ReadAllBytesAsync(Path.Combine(Folder, "app.yaml")),
            CancellationToken.None
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        _site = compilation.Site;
    }

    public async ValueTask DisposeAsync()
    {
        await _sources.DisposeAsync();
        Directory.Delete(_database, recursive: true);
    }

    private static readonly string[] OddTexts =
    [
        "a",
        "A",
        "ab",
        "about",
        "new",
        "ø",
        "e\u0301",
        "é",
        "漢",
        "😀",
        "n/w-moor",
        "50%",
        "%2F",
        "%",
        "%00",
        "a+b",
        "q?",
        "a&b=c",
        "#3",
        "a;b",
        "a b",
        " ",
        "st-anne's",
        "(!*)",
        "~-._",
        ".",
        "..",
        "...",
        "",
        "\u00a0",
        "\t",
        "\n",
        "a\\b",
        "\"",
        "<x>",
        "x.y/z",
        "ab-12",
        "ab-",
        "abcde",
        "AB",
        "a-z",
        "b",
        "-",
        ".html",
        "null",
        "true",
        new('x', 4096),
        new('x', 4097),
        new('ø', 700),
        "a\0b",
    ];

    private static readonly string[] OddNumbers =
    [
        "0",
        "7",
        "-7",
        "42",
        "9007199254740993",
        "9223372036854775807",
        "-9223372036854775808",
        "32767",
    ];

    /// <summary>Texts for a parameter, all of them values of its type.</summary>
    private static string[] TextsOf(ParameterContract parameter) =>
        parameter.Kind switch
        {
            ValueKind.Whole => OddNumbers,
            ValueKind.Decimal => ["0", "7", "-7.5", "0.001", "1234567890123456789012345678", "-0.1234567890123456789"],
            ValueKind.Uuid => ["0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54", "00000000-0000-0000-0000-000000000000"],
            ValueKind.Date => ["2024-02-29", "0001-01-01", "9999-12-31"],
            ValueKind.Boolean => ["true", "false"],
            ValueKind.Year => ["2024", "0999", "9998"],
            ValueKind.Month => ["1", "12"],
            ValueKind.Word => [.. parameter.Words],
            _ when parameter.Name == "code" => ["AV-0007", "AV-9999", "XX-1"],
            _ => OddTexts,
        };

    private Vectors Made()
    {
        var contracts = PageContract.Of(_site);
        var build = new List<BuildVector>();
        foreach (var page in contracts)
        {
            // Very long ones once are enough.
            var texts = page
                .Parameters.Select(parameter =>
                    TextsOf(parameter).Where(text => text.Length < 200 || page.Name == "word").ToArray()
                )
                .ToList();
            for (var i = 0; i < Math.Max(1, texts.Count == 0 ? 1 : texts.Max(list => list.Length)); i++)
            {
                var values = new Dictionary<string, string[]>();
                for (var p = 0; p < page.Parameters.Count; p++)
                {
                    var (parameter, list) = (page.Parameters[p], texts[p]);
                    if (!parameter.Of.Required && (i + p) % 3 == 2)
                        continue;
                    values[parameter.Name] =
                        parameter.Of.Many && i % 2 == 0
                            ? [list[i % list.Length], list[(i + 1) % list.Length]]
                            : [list[i % list.Length]];
                }

                build.Add(new BuildVector(page.Name, values, Built(page.Page, values)));
            }
        }

        var addresses = build.Select(vector => vector.Address).OfType<string>().ToList();
        string[] own =
        [
            "/",
            "",
            "things",
            "*",
            "//things",
            "/things/",
            "/things//",
            "/things/7/",
            "/things/007",
            "/things/+7",
            "/things/-0",
            "/things/%37",
            "/things/7.0",
            "/things/1e3",
            "/things/0x7",
            "/things/７",
            "/things/%EF%BC%97",
            "/things/9223372036854775808",
            "/things/" + new string('0', 63) + "7",
            "/things/" + new string('0', 64) + "7",
            "/THINGS/7",
            "/things/7?x=1",
            "/things/7?id=8",
            "/things/7#x",
            "/things/7\\",
            "/things/ 7",
            "/things/7/edit",
            "/things/7/edit/",
            "/things/new",
            "/things/new/",
            "/things/new?kind=a",
            "/things/new?kind=",
            "/things/new?Kind=a",
            "/things?kind=a&kind=a&kind=b",
            "/things?kind=&kind=a",
            "/things?ki-nd=a",
            "/things?kind=a%2",
            "/things?kind=%FF",
            "/things?state=empty",
            "/things?state=full",
            "/things?state=EMPTY",
            "/things?find=x&order=-name&size=20",
            "/old/7.html",
            "/old/07.html",
            "/old/.html",
            "/old/7",
            "/older?id=7",
            "/older",
            "/things/made",
            "/things/made?year=2024",
            "/things/made?year=2024&month=3",
            "/things/made?month=3",
            "/things/made?year=24",
            "/things/made?year=02024",
            "/things/made?year=2024&month=13",
            "/things/made?year=2024&month=03",
            "/things/made?year=0099",
            "/things/made?year=+999",
            "/things/made?year=&month=",
            "/sized?least=1.50",
            "/sized?least=+1&most=-0",
            "/sized?least=.5",
            "/sized?least=5.",
            "/sized?least=1e3",
            "/sized?small=40000",
            "/sized?small=-32768",
            "/sized?small=-32769",
            "/sized?least=0.12345678901234567890123456789",
            "/sized?most=00000000000000000000000000000000000001",
            "/sized?least=12345678901234567890123456789",
            "/lookup",
            "/lookup?code=",
            "/lookup?code=AV-0007",
            "/lookup?code=av-0007",
            "/lookup?Code=AV-0007",
            "/lookup?c_o_d_e=AV-0007",
            "/lookup?code=AV-0007&code=AV-0008",
            "/lookup?code=AV-00077",
            "/lookup?code=AV%2D0007",
            "/lookup?code=AV-0007%0A",
            "/lookup?code",
            "/lookup?&&code=AV-0007&",
            "/lookup?code=AV-0007&%FF=1",
            "/lookup?%63ode=AV-0007",
            "/words/a+b",
            "/words/a%2Bb",
            "/words/a%20b",
            "/words/%FF",
            "/words/%C0%AF",
            "/words/%ED%A0%80",
            "/words/%00",
            "/words/%",
            "/words/%4",
            "/words/%4g",
            "/words/.",
            "/words/..",
            "/words/%2e%2e",
            "/words/a/../b",
            "/words/",
            "/words//",
            "/words/a/b",
            "/words/a%2Fb",
            "/words/about",
            "/words/%61bout",
            "/words/About",
            "/words/about/",
            "/words/ø",
            "/files/no-.html",
            "/files/no-a.html",
            "/files/no-.html.html",
            "/files/No-a.html",
            "/files/no-a.htm",
            "/files/%6eo-a.html",
            "/files/no-%FF.html",
            "/forms/ab",
            "/forms/abc-1",
            "/forms/x.y%2Fz",
            "/forms/xzy%2Fz",
            "/forms/toolongtoolong",
            "/forms/AB",
            "/mix/a",
            "/mix/a-",
            "/mix/a-b",
            "/mix/a-bc",
            "/mix/a-c",
            "/mix/x-z/deep",
            "/mix/-z/deep",
            "/mix/a-b-z/deep",
            "/mix/%FF/deep",
            "/mix/%FF",
            "/people/0B5AD0F2-6C0E-4B39-9F0A-3D2F7F1C9E54",
            "/people/0b5ad0f26c0e4b399f0a3d2f7f1c9e54",
            "/people/{0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54}",
            "/people/%7B0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54%7D",
            "/people/0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e5",
            "/people/0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e5g",
            "/people/+b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54",
            "/people/0b5ad0f-26c0e-4b39-9f0a-3d2f7f1c9e54",
            "/people/0x5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54",
            "/days/2024-02-29",
            "/days/2023-02-29",
            "/days/2024-2-29",
            "/days/0000-01-01",
            "/days/20240229",
            "/days/2024-02-29T00",
            "/since/1900-02-29",
            "/since/2000-02-29",
            "/since/2024-13-01",
            "/pairs/1/true",
            "/pairs/01/TRUE",
            "/pairs/1/1",
            "/pairs/1/0",
            "/pairs/1/yes",
            "/pairs/1/",
            "/pairs//true",
            "/pairs/1",
            "/pairs/x/y",
            "/shared",
            "/shared?thing=7",
            "/shared?word_slug=a",
            "/shared?thing=7&word_slug=a",
            "/shared?thing=",
            "/shared?wordslug=a",
            "/shared?thing=x&word_slug=",
            "/l%C3%B8k/50%25/x",
            "/l%C3%B8k/50%25/x?tone=low",
            "/l%C3%B8k/50%25/",
            "/l%C3%B8k/50%/x",
            "/l%c3%b8k/50%25/" + new string('x', 201),
            "/_jexa/style.css",
            "/_jexa",
            "/%5Fjexa/x",
            "http://127.0.0.1:7440/things/7",
            "HTTPS://x/things/7?y",
            "http://things/7",
            "http://x?y",
            "ftp://x/things/7",
            "/things/7\t",
            "/nothing",
            "/nothing/",
        ];

        // Each address with one character changed, by a generator that is the same everywhere.
        var random = new Demo.SplitMix(7);
        string[] pieces = ["/", "%", "%2F", "%2e", "+", "?", "&", "=", "0", "a", "A", "-", ".", "..", ";", "%C3", "é"];
        var changed = addresses
            .Where(address => address.Length < 200)
            .SelectMany(address =>
                Enumerable
                    .Range(0, 4)
                    .Select(_ =>
                    {
                        var at = random.Below(address.Length + 1);
                        return random.Below(3) == 0 && at < address.Length
                            ? address.Remove(at, 1)
                            : address.Insert(at, pieces[random.Below(pieces.Length)]);
                    })
            );
        return new Vectors(
            contracts.ToDictionary(
                page => page.Name,
                page =>
                    page.Parameters.ToDictionary(
                        parameter => parameter.Name,
                        parameter => (parameter.Of.Many ? "many " : "") + parameter.Kind.ToString().ToLowerInvariant()
                    )
            ),
            build,
            [.. addresses.Concat(own).Concat(changed).Distinct().Select(Read)]
        );
    }

    /// <summary>What the service's own builder makes of some texts, where it reads back to the same.</summary>
    private string? Built(Page page, Dictionary<string, string[]> values)
    {
        if (values.Values.SelectMany(texts => texts).Any(text => !CanBeCarried(text)))
            return null;
        var address = page.Head.Builder.Build([
            .. page.Parameters.Select(parameter => values.GetValueOrDefault(parameter.Name) ?? []),
        ]);
        return
            address is not null
            && AddressReading.Of(_site, address) is AddressReading.Meant meant
            && meant.Page == page
            && meant.Address == address
            ? address
            : null;
    }

    private static bool CanBeCarried(string text) =>
        text.Length > 0
        && !text.Contains('\0')
        && Encoding.UTF8.GetByteCount(text) <= AddressBuilder.MaxEncodedId
        && PathTemplate.Parse("/{x}", [])!.Expand(_ => text).Length <= AddressBuilder.MaxEncodedId + 1;

    private ReadVector Read(string address) =>
        AddressReading.Of(_site, address) switch
        {
            AddressReading.Meant meant => new ReadVector(
                address,
                "page",
                meant.Page.Name,
                null,
                meant
                    .Page.Parameters.Select((parameter, i) => (parameter.Name, Texts: meant.Texts[i]))
                    .Where(pair => pair.Texts.Count > 0)
                    .ToDictionary(pair => pair.Name, pair => pair.Texts.ToArray()),
                meant.IsCanonical,
                meant.Address
            ),
            AddressReading.Malformed malformed => new ReadVector(
                address,
                "malformed",
                malformed.Page?.Name,
                malformed.Parameter,
                null,
                null,
                null
            ),
            AddressReading.Missing missing => new ReadVector(
                address,
                "missing",
                missing.Page.Name,
                missing.Parameter,
                null,
                null,
                null
            ),
            _ => new ReadVector(address, "no-page", null, null, null, null, null),
        };

    private static Vectors Committed() =>
        JsonSerializer.Deserialize<Vectors>(File.ReadAllText(Path.Combine(Folder, "addresses.json")), Json)!;

    /// <summary>One vector a line, so that a difference is one line.</summary>
    private static string Text(Vectors vectors)
    {
        string Lines<T>(IEnumerable<T> items) =>
            string.Join(",\n", items.Select(item => "  " + JsonSerializer.Serialize(item, Json)));
        return $"{{\n\"kinds\": {JsonSerializer.Serialize(vectors.Kinds, Json)},\n\"build\": "
            + $"[\n{Lines(vectors.Build)}\n],\n\"read\": [\n{Lines(vectors.Read)}\n]\n}}\n";
    }

    [Fact]
    public void The_file_is_what_Core_says()
    {
        Is("addresses.json", Text(Made()));
        Is("vectors.ts", TypeScriptWriter.Write(_site));
        Is("Vectors.cs", CSharpWriter.Write(_site, "Jexa.Vectors"));
        Assert.InRange(Committed().Build.Count + Committed().Read.Count, 500, 5000);

        static void Is(string name, string text)
        {
            var file = Path.Combine(Folder, name);
            if (Writes && (!File.Exists(file) || File.ReadAllText(file) != text))
                File.WriteAllText(file, text);
            Assert.True(File.ReadAllText(file) == text, $"{name} is out of date: run this test with JEXA_WRITE=1.");
        }
    }

    [Fact]
    public async Task The_service_itself_reads_addresses_so()
    {
        var runner = new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings(), null);
        foreach (var vector in Committed().Read.Where(vector => vector.Address.Length > 0))
        {
            // What a list is asked besides its parameters is the visit's affair.
            if (vector.Address.Contains("find=") || vector.Address.Contains("order="))
                continue;
            var trace = new VisitTrace("GET", vector.Address, TimeProvider.System);
            using var answer = await runner.RunAsync(
                _site,
                new VisitRequest("GET", RequestTarget.Read(vector.Address), Reader.Program, Principal.Anonymous.Value),
                trace,
                CancellationToken.None
            );
            var expected = vector switch
            {
                { Outcome: "page", Canonical: false } => answer.Outcome is Outcome.NotCanonical or Outcome.Unavailable,
                { Outcome: "page" } => answer.Outcome
                    is Outcome.Listed
                        or Outcome.Unknown
                        or Outcome.Shown
                        or Outcome.Unavailable,
                { Outcome: "malformed" } => answer.Outcome is Outcome.Malformed malformed
                    && (vector.Parameter is null || malformed.Parameter == vector.Parameter)
                    || trace.Page?.Kind is "edit" or "new",
                { Outcome: "missing" } => answer.Outcome is Outcome.Missing missing && missing.Parameter == vector.Parameter
                    || trace.Page?.Kind is "edit" or "new",
                _ => answer.Outcome is Outcome.NoPage,
            };
            Assert.True(expected, $"{vector.Address}: {answer.Outcome} {answer.Location}, and {vector}");
            // Before a slash too many is gone nobody asks which of the pages of a path is meant.
            if (vector.Page is not null && trace.Page is not null && answer.Outcome is not Outcome.NotCanonical)
                Assert.Equal(vector.Page, trace.Page.Name);
        }
    }

    [Fact]
    public void The_CSharp_reads_and_writes_addresses_so()
    {
        var vectors = Committed();
        foreach (var vector in vectors.Build)
        {
            var page = PageOf(vector.Page);
            var write = page.GetMethod("Address")!;
            var arguments = write
                .GetParameters()
                .Select(parameter => ArgumentOf(parameter, vector.Values, vectors.Kinds[vector.Page]))
                .ToArray();
            string? address;
            try
            {
                address = (string)write.Invoke(null, arguments)!;
            }
            catch (TargetInvocationException refused) when (refused.InnerException is Jexa.Vectors.AddressException)
            {
                address = null;
            }

            Assert.True(
                address == vector.Address,
                $"{vector.Page} {JsonSerializer.Serialize(vector.Values)}: {address}, not {vector.Address}"
            );
        }

        foreach (var vector in vectors.Read)
        {
            var read = Jexa.Vectors.Addresses.Read(vector.Address);
            var told = read switch
            {
                Jexa.Vectors.Reading.NoPage => new ReadVector(vector.Address, "no-page", null, null, null, null, null),
                Jexa.Vectors.Reading.Malformed malformed => new ReadVector(
                    vector.Address,
                    "malformed",
                    malformed.Page,
                    malformed.Parameter,
                    null,
                    null,
                    null
                ),
                Jexa.Vectors.Reading.Missing missing => new ReadVector(
                    vector.Address,
                    "missing",
                    missing.Page,
                    missing.Parameter,
                    null,
                    null,
                    null
                ),
                _ => new ReadVector(
                    vector.Address,
                    "page",
                    NameOf(read.GetType().DeclaringType!),
                    null,
                    ValuesOf(read, vectors),
                    read.IsCanonical,
                    read.Address
                ),
            };
            Assert.Equal(JsonSerializer.Serialize(vector, Json), JsonSerializer.Serialize(told, Json));
        }
    }

    private static Type PageOf(string page) =>
        typeof(Jexa.Vectors.Addresses).Assembly.GetType($"Jexa.Vectors.{ClientNames.Pascal(page)}Page")!;

    private static string NameOf(Type page) => (string)page.GetField("Name")!.GetRawConstantValue()!;

    private static object? ArgumentOf(
        ParameterInfo parameter,
        Dictionary<string, string[]> values,
        Dictionary<string, string> kinds
    )
    {
        var name = kinds.Keys.FirstOrDefault(kind => ClientNames.Camel(kind) == parameter.Name);
        if (name is null || !values.TryGetValue(name, out var texts))
            return null;
        var typed = texts.Select(text => Typed(kinds[name].Split(' ')[^1], text)).ToList();
        return kinds[name].StartsWith("many", StringComparison.Ordinal) ? typed.Cast<string>().ToList() : typed[0];
    }

    private static object Typed(string kind, string text) =>
        kind switch
        {
            "whole" or "year" or "month" => long.Parse(text, CultureInfo.InvariantCulture),
            "decimal" => decimal.Parse(text, CultureInfo.InvariantCulture),
            "boolean" => text == "true",
            "uuid" => Guid.Parse(text),
            "date" => DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture),
            _ => text,
        };

    private static Dictionary<string, string[]> ValuesOf(Jexa.Vectors.Reading read, Vectors vectors)
    {
        var kinds = vectors.Kinds[NameOf(read.GetType().DeclaringType!)];
        var values = new Dictionary<string, string[]>();
        foreach (var (name, kind) in kinds)
        {
            var value = read.GetType().GetProperty(ClientNames.Pascal(name))!.GetValue(read);
            if (value is not null)
                values[name] = value is IEnumerable several and not string
                    ? [.. several.Cast<object>().Select(one => Shown(one, kind))]
                    : [Shown(value, kind)];
        }

        return values;
    }

    private static string Shown(object value, string kind) =>
        value switch
        {
            bool truth => truth ? "true" : "false",
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            decimal number => number.ToString("0.############################", CultureInfo.InvariantCulture),
            long year when kind == "year" => year.ToString("0000", CultureInfo.InvariantCulture),
            _ => Convert.ToString(value, CultureInfo.InvariantCulture)!,
        };

    [Fact]
    public async Task The_TypeScript_reads_and_writes_addresses_so()
    {
        var ran = await Node.RunAsync(
            Path.Combine(Folder, "vectors.ts"),
            """
            import { readFileSync } from "node:fs";
            const { kinds, build, read } = JSON.parse(readFileSync(process.argv[2], "utf8"));
            const typed = (kind, text) => kind === "whole" ? (Number.isSafeInteger(Number(text)) ? Number(text) : BigInt(text)) : kind === "year" || kind === "month" ? Number(text) : kind === "boolean" ? text === "true" : text;
            const shown = (kind, value) => kind === "year" ? String(value).padStart(4, "0") : String(value);
            let wrong = 0, right = 0;
            const is = (what, got, wanted) => { if (JSON.stringify(got) === JSON.stringify(wanted)) right++; else if (++wrong < 20) console.log(what, JSON.stringify(got), "not", JSON.stringify(wanted)); };
            const camel = (name) => Object.entries(client.pages).find(([, page]) => page.name === name)[0];
            for (const { page, values, address } of build) {
              const given = Object.fromEntries(Object.entries(values).map(([name, texts]) => { const kind = kinds[page][name]; return [name, kind.startsWith("many ") ? texts.map((text) => typed(kind.slice(5), text)) : typed(kind, texts[0])]; }));
              let built;
              try { built = client.pages[camel(page)].address(given); } catch (error) { if (!(error instanceof client.AddressError)) throw error; }
              is(`${page} ${JSON.stringify(values)}`, built ?? null, address ?? null);
            }
            for (const { address, ...wanted } of read) {
              const got = client.read(address);
              const told = got.outcome === "page"
                ? { outcome: "page", page: got.page, values: Object.fromEntries(Object.entries(kinds[got.page]).filter(([name]) => got.parameters[name] !== undefined).map(([name, kind]) => [name, [got.parameters[name]].flat().map((value) => shown(kind, value))])), canonical: got.canonical, written: got.address }
                : { outcome: got.outcome, ...(got.page ? { page: got.page } : {}), ...(got.parameter ? { parameter: got.parameter } : {}) };
              is(address, told, wanted);
            }
            console.log(`${right} right, ${wrong} wrong`);
            process.exit(wrong > 0 || right < 500 ? 1 : 0);
            """,
            Path.Combine(Folder, "addresses.json")
        );
        Assert.True(ran.ExitCode == 0, ran.Out);
    }
}

/// <summary>Runs TypeScript: what the console is built with takes its types away, and Node does the rest.</summary>
internal static class Node
{
    /// <param name="file">The file that the script has as <c>client</c>.</param>
    public static async Task<(int ExitCode, string Out)> RunAsync(string file, string script, params string[] arguments)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-node-").FullName;
        try
        {
            var typescript = Path.Combine(Repository.Root, "console/node_modules/typescript");
            await File.WriteAllTextAsync(
                Path.Combine(folder, "strip.cjs"),
                "const ts = require(process.argv[2]), fs = require('fs'); fs.writeFileSync(process.argv[4], "
                    + "ts.transpileModule(fs.readFileSync(process.argv[3], 'utf8'), { compilerOptions: { target: "
                    + "'ES2022', module: 'ESNext' } }).outputText);"
            );
            var stripped = await RunAsync(
                "node",
                [Path.Combine(folder, "strip.cjs"), typescript, file, Path.Combine(folder, "client.mjs")]
            );
            if (stripped.ExitCode != 0)
                return stripped;
            await File.WriteAllTextAsync(
                Path.Combine(folder, "script.mjs"),
                "import * as client from './client.mjs';\n" + script
            );
            return await RunAsync("node", [Path.Combine(folder, "script.mjs"), .. arguments]);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    public static async Task<(int ExitCode, string Out)> RunAsync(string program, IReadOnlyList<string> arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, output + await error);
    }
}
