using System.Diagnostics;
using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;

namespace Jexa.Core.Tests;

/// <summary>Tests that measure the whole process: nothing else runs beside them.</summary>
[CollectionDefinition(nameof(Alone), DisableParallelization = true)]
public sealed class Alone;

/// <summary>
/// Millions of made-up targets against parser, matcher and keys, for as many seconds as JEXA_FUZZ_SECONDS says (10 where it
/// says nothing), and until JEXA_FUZZ_TARGETS have been tried where that is set: no exception, no growth, and what the matcher
/// finds is what the templates say.
/// </summary>
[Collection(nameof(Alone))]
public class FuzzTests
{
    private static readonly string[] Pieces =
    [
        "/",
        "/",
        "/",
        "bridges",
        "districts",
        "7",
        "007",
        "new",
        "spans",
        "lookup",
        "?",
        "&",
        "=",
        "code",
        "%",
        "%2F",
        "%2e",
        "%00",
        "%ff",
        "%C3%B8",
        "..",
        ".",
        "+",
        ";",
        "\\",
        "#",
        " ",
        "ø",
        "\u0301",
        "\ud83d",
        "_jexa",
        "no-",
        ".html",
        "http://h",
        "-",
        "a2ec3157-bde3-43ea-8711-9da5bd7f99f6",
        "2024-02-29",
    ];

    [Fact]
    public void Made_up_targets_are_read_and_matched_without_exception_or_growth()
    {
        var tree = new PathTree<string>();
        foreach (
            var path in new[]
            {
                "/",
                "/bridges",
                "/bridges/{id}",
                "/bridges/new",
                "/bridges/no-{id}.html",
                "/bridges/{a}/spans/{b}",
                "/districts/{d}",
                "/lookup{?code}",
                "/{x}/{y}/{z}",
            }
        )
            tree.Add(PathTemplate.Parse(path, [])!, path);
        KeyType[] keys =
        [
            IntegerKey.Instance,
            TextKey.Exact,
            UuidKey.Instance,
            DateKey.Instance,
            BooleanKey.Instance,
            TextKey.Of(true, new TextForm("[A-Z]{2}-[0-9]{4}", 9, null)),
        ];
        var seconds = double.Parse(Environment.GetEnvironmentVariable("JEXA_FUZZ_SECONDS") ?? "10", CultureInfo.InvariantCulture);
        var least = long.Parse(Environment.GetEnvironmentVariable("JEXA_FUZZ_TARGETS") ?? "0", CultureInfo.InvariantCulture);
        var random = new Random(20_261_123);
        var clock = Stopwatch.StartNew();
        var (targets, matched, before) = (0L, 0L, 0L);
        while (clock.Elapsed.TotalSeconds < seconds || targets < least)
        {
            for (var i = 0; i < 1000; i++)
            {
                var raw = Make(random);
                var target = RequestTarget.Read(raw);
                if (target.Fault != TargetFault.None)
                {
                    if (target.Segments.Length != 0)
                        Assert.Fail($"A target that is no address has segments: {raw}");
                    continue;
                }

                var pages = tree.Match(target, target.Segments.Length);
                matched += pages.Count;
                if (pages.Count > 1)
                    Assert.Fail($"Two pages were found: {raw}");
                for (var segment = 0; segment < target.Segments.Length; segment++)
                {
                    var text = target.Text(segment);
                    if (text is "." or ".." || text.Contains('\0'))
                        Assert.Fail($"A dot segment or NUL was let through: {raw}");
                    var key = keys[(segment + i) % keys.Length];
                    var reading = key.Read(text);
                    if (reading.Fault == KeyFault.None && key.Read(key.Write(reading.Value!)) is not { IsCanonical: true } again)
                        Assert.Fail($"An ID that was read is not read back: {raw}");
                }
            }

            targets += 1000;
            if (targets == 50_000)
                before = GC.GetTotalMemory(forceFullCollection: true);
        }

        Assert.True(targets > 50_000 && matched > 1000, $"{targets} targets, {matched} matched");
        Assert.InRange(GC.GetTotalMemory(forceFullCollection: true) - before, long.MinValue, 2 * 1024 * 1024);
    }

    private static string Make(Random random)
    {
        var count = random.Next(1, 12);
        var pieces = new string[count];
        for (var i = 0; i < count; i++)
            pieces[i] = random.Next(12) == 0 ? ((char)random.Next(0x100)).ToString() : Pieces[random.Next(Pieces.Length)];
        return (random.Next(8) == 0 ? "" : "/") + string.Concat(pieces);
    }
}
