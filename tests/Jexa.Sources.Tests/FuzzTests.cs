using System.Diagnostics;
using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Sources.Tests;

/// <summary>
/// Made-up visits over a real database, for as many seconds as JEXA_FUZZ_SECONDS says (5 where it says nothing): each has
/// exactly one outcome, with the status that goes with it, and a record that is shown is the one its address names.
/// </summary>
public sealed class FuzzTests
{
    private static readonly string[] Pieces =
    [
        "/",
        "/",
        "/",
        "bridges",
        "bridges",
        "districts",
        "7",
        "8",
        "9",
        "10",
        "007",
        "%37",
        "+7",
        "l%C3%B8kke",
        "n%2Fw-moor",
        "shut",
        "lookup?code=",
        "AV-0007",
        "av-0009",
        "AV-0008",
        "?",
        "&",
        "=",
        "code",
        "after=",
        "before=end",
        "%",
        "%00",
        "..",
        "'",
        "\"",
        ";--",
        " ",
        "ø",
        "1 OR 1=1",
        "99999999999999999999",
        "_jexa",
    ];

    [Fact]
    public async Task Every_visit_has_one_outcome_and_shows_no_other_record_than_its_address_names()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        var seconds = double.Parse(Environment.GetEnvironmentVariable("JEXA_FUZZ_SECONDS") ?? "5", CultureInfo.InvariantCulture);
        var random = new Random(7);
        var seen = new Dictionary<string, int>();
        var clock = Stopwatch.StartNew();
        while (clock.Elapsed.TotalSeconds < seconds)
        {
            var target = Make(random);
            var (answer, trace) = await app.VisitAsync(
                site,
                target,
                json: random.Next(2) == 0,
                method: random.Next(20) == 0 ? "POST" : "GET"
            );
            using (answer)
            {
                Check(target, answer, trace);
                seen[trace.Outcome!.Word] = seen.GetValueOrDefault(trace.Outcome.Word) + 1;
            }
        }

        // All of those that this database can give.
        Assert.Equal(
            ["found", "hidden", "listed", "malformed", "missing", "no-page", "not-allowed", "not-canonical", "unknown"],
            seen.Keys.Order()
        );
        Assert.True(seen.Values.Sum() > 10_000);
    }

    private static void Check(string target, Answer answer, VisitTrace trace)
    {
        var word = trace.Outcome?.Word;
        var fits = word switch
        {
            "listed" or "found" => answer.Status == 200,
            "not-canonical" => answer.Status is 301 or 302 && answer.Location is ['/', not '/', ..] or "/",
            "missing" => answer.Status is 302 or 400 or 404,
            "malformed" => answer.Status == 400,
            "unknown" or "hidden" or "no-page" => answer.Status == 404,
            "not-allowed" => answer.Status == 405 && answer.Allow == "GET, HEAD",
            _ => false,
        };
        if (!fits || trace.Status != answer.Status || answer.Outcome != trace.Outcome)
            Assert.Fail($"{target} ended {word} with {answer.Status}: {trace.Why}");
        if (answer.View is DetailView detail && !Names(target, detail))
            Assert.Fail($"{target} shows another record.");
        if (word is "unknown" or "hidden" && answer.View is MessageView { Outcome: not "unknown" })
            Assert.Fail($"{target} tells that a record is hidden.");
    }

    /// <summary>Whether the shown record's own ID is what stands in the address it was asked for by.</summary>
    private static bool Names(string target, DetailView view)
    {
        var asked = RequestTarget.Read(target);
        var id = view.Page == "lookup" ? asked.Query.Single(pair => pair.Name == "code").Value : asked.Text(1).ToString();
        using var own = new Utf8Buffer(64);
        return view.Shape.Own.TryWriteId(view.Record, 0, own) && own.ToString() == id;
    }

    private static string Make(Random random)
    {
        var pieces = new string[random.Next(1, 6)];
        for (var i = 0; i < pieces.Length; i++)
            pieces[i] = Pieces[random.Next(Pieces.Length)];
        var known = random.Next(4) switch
        {
            0 => "/bridges/",
            1 => "/districts/",
            2 => "/lookup?code=",
            _ => "/",
        };
        return random.Next(3) == 0
            ? "/" + string.Concat(pieces)
            : known + string.Concat(pieces.AsSpan(0, Math.Min(pieces.Length, 2)));
    }
}
