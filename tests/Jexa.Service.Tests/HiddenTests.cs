using System.Text.RegularExpressions;

namespace Jexa.Service.Tests;

/// <summary>
/// Hidden means hidden everywhere: what a visitor gets is, byte for byte, what the same app answers over data without the hidden
/// records. JEXA_WORLDS says how many made-up apps are tried, JEXA_WORLD with which the numbers begin.
/// </summary>
public sealed partial class HiddenTests
{
    private static readonly int First = Number("JEXA_WORLD", 1);
    private static readonly int Count = Number("JEXA_WORLDS", 6);

    private static int Number(string name, int otherwise) =>
        int.TryParse(Environment.GetEnvironmentVariable(name), out var number) ? number : otherwise;

    [Fact]
    public async Task Nobody_can_tell_data_with_hidden_records_from_data_without_them()
    {
        for (var seed = First; seed < First + Count; seed++)
        {
            var worlds = HiddenWorlds.Of(seed);
            using var folder = new AppFolder();
            var state = Directory.CreateTempSubdirectory("jexa-state-").FullName;
            var answers = new List<Dictionary<string, string>>();
            var file = folder.Write("app.yaml", worlds.App);
            Directory.CreateDirectory(folder.File("pictures"));
            for (var world = 0; world < 3; world++)
            {
                File.Delete(folder.File("data.db"));
                folder.MakeDatabase($"PRAGMA foreign_keys = 0; {worlds.Schema} {worlds.Rows(world)}");

                // One state folder for all: the same secrets, and a change log that knows nothing.
                var kept = Directory.CreateTempSubdirectory("jexa-state-").FullName;
                if (world > 0)
                    CopyState(state, kept);
                using var service = await RunningService.StartInAsync(kept, "serve", file, "--log", "none");
                if (world == 0)
                    CopyState(kept, state);
                answers.Add(await AskAsync(service, worlds.Targets));
            }

            Directory.Delete(state, recursive: true);
            for (var world = 1; world < 3; world++)
            {
                foreach (var (asked, answer) in answers[0])
                {
                    if (AreSame(answer, answers[world][asked]))
                        continue;
                    Assert.Fail(
                        $"World {world} of app {seed} answers {asked} "
                            + $"otherwise.\n{worlds.App}\n{Difference(answer, answers[world][asked])}"
                    );
                }
            }

            Assert.Contains(answers[0], pair => pair.Value.StartsWith("200", StringComparison.Ordinal));
            Assert.Contains(answers[0], pair => pair.Value.StartsWith("404", StringComparison.Ordinal));
        }
    }

    private static void CopyState(string from, string to)
    {
        foreach (var name in new[] { "token", "cursor-secret", "version-secret" })
            File.Copy(Path.Combine(from, name), Path.Combine(to, name));
        Directory.CreateDirectory(Path.Combine(to, "keys"));
        foreach (var key in Directory.GetFiles(Path.Combine(from, "keys")))
            File.Copy(key, Path.Combine(to, "keys", Path.GetFileName(key)));
    }

    /// <summary>Everything that comes back for every address, as a page and as JSON, headers and all.</summary>
    private static async Task<Dictionary<string, string>> AskAsync(RunningService service, IReadOnlyList<string> targets)
    {
        using var http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = false,
                UseProxy = false,
            }
        )
        {
            BaseAddress = new Uri(service.PagesUrl),
        };
        var answers = new Dictionary<string, string>();
        foreach (var target in targets)
        {
            foreach (var type in new[] { "text/html", "application/json" })
            {
                using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(service.PagesUrl.TrimEnd('/') + target));
                request.Headers.Accept.ParseAdd(type);
                request.Headers.Add("Cookie", "jexa-visitor=0123456789abcdef0123456789abcdef");
                answers[$"{target} ({type})"] = Plain(await http.SendAsync(request), service.Port, service.ConsolePort);
            }
        }

        // What is done to records: a change that names a hidden one, one that leaves a withheld field alone, a deletion that is
        // refused.
        foreach (var target in targets.Where(target => target.EndsWith("/edit", StringComparison.Ordinal)))
        {
            using var request = new HttpRequestMessage(HttpMethod.Patch, new Uri(service.PagesUrl.TrimEnd('/') + target))
            {
                Content = new StringContent("""{"fields":{"name":""}}""", null, "application/json"),
            };
            request.Headers.TryAddWithoutValidation("If-Match", "*");
            answers[$"{target} (PATCH)"] = Plain(await http.SendAsync(request), service.Port, service.ConsolePort);
        }

        return answers;
    }

    /// <summary>
    /// An answer but for what differs from one visit to the next by itself: numbers, moments, sealed forms of one length.
    /// </summary>
    private static string Plain(HttpResponseMessage answer, int port, int consolePort)
    {
        using (answer)
        {
            var head = string.Join(
                '\n',
                answer
                    .Headers.Concat(answer.Content.Headers)
                    .Where(header =>
                        header.Key is not ("Jexa-Visit" or "Date" or "Content-Length")
                        && !(header.Key == "ETag" && header.Value.First().Length < 20)
                    )
                    .OrderBy(header => header.Key, StringComparer.Ordinal)
                    .Select(header => $"{header.Key}: {string.Join(", ", header.Value)}")
            );
            var body = answer.Content.ReadAsStringAsync().Result;
            var text = $"{(int)answer.StatusCode}\n{body}\n\n{head}"
                .Replace($":{port}", ":PORT", StringComparison.Ordinal)
                .Replace($":{consolePort}", ":CONSOLE", StringComparison.Ordinal);

            // Slow counts are kept for a minute and say so: on a busy machine any can be slow. The tag is made of what is said.
            if (
                text.Contains("\"exact\":false", StringComparison.Ordinal)
                || text.Contains("Counted within the last minute", StringComparison.Ordinal)
            )
                text += SlowCount;
            text = text.Replace("\"exact\":false", "\"exact\":true", StringComparison.Ordinal)
                .Replace("<p class=\"none\">Counted within the last minute.</p>\n", "", StringComparison.Ordinal);
            return Sealed().Replace(text, match => $"(sealed {match.Length})");
        }
    }

    private const string SlowCount = "\n(a slow count)";

    private static bool AreSame(string one, string other)
    {
        if (one == other)
            return true;
        if (!one.EndsWith(SlowCount, StringComparison.Ordinal) && !other.EndsWith(SlowCount, StringComparison.Ordinal))
            return false;
        return Tag().Replace(one, "").Replace(SlowCount, "", StringComparison.Ordinal)
            == Tag().Replace(other, "").Replace(SlowCount, "", StringComparison.Ordinal);
    }

    [GeneratedRegex("^ETag: .*$", RegexOptions.Multiline)]
    private static partial Regex Tag();

    [GeneratedRegex("CfDJ8[A-Za-z0-9_-]+")]
    private static partial Regex Sealed();

    private static string Difference(string one, string other)
    {
        var (a, b) = (one.Split('\n'), other.Split('\n'));
        var at = Enumerable
            .Range(0, Math.Min(a.Length, b.Length))
            .FirstOrDefault(i => a[i] != b[i], Math.Min(a.Length, b.Length) - 1);
        var from = Enumerable.Range(0, Math.Min(a[at].Length, b[at].Length)).FirstOrDefault(i => a[at][i] != b[at][i]);
        string Cut(string line) => line[Math.Max(0, from - 150)..Math.Min(line.Length, from + 150)];
        return $"without: {Cut(a[at])}\nwith:    {Cut(b[at])}";
    }
}
