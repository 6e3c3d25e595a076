using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// Audits, made by a running service, of small applications built in five ways: in C#, in Python, as files, and
/// drawn by script in two ways. Each is right, or has one fault.
/// </summary>
public abstract class BedTests(AuditService service)
{
    /// <summary>The faults of some beds, and the codes that must tell of them.</summary>
    protected static TheoryData<string, string, string> Planted(params string[] beds)
    {
        var data = new TheoryData<string, string, string>();
        foreach (var line in File.ReadAllLines(Repository.File("tests/Jexa.Service.Tests/Beds/faults.txt")))
            if (line.Split('|', StringSplitOptions.TrimEntries) is [var bed, var fault, var code] && beds.Contains(bed))
                data.Add(bed, fault, code);
        foreach (var bed in beds)
            Assert.True(data.Count(row => row.Data.Item1 == bed) >= 25, $"{bed} has too few faults.");
        return data;
    }

    /// <summary>Every second fault of a bed: the classes of a slow one share them, and run at the same time.</summary>
    /// <param name="first">The number of the first: 0 or 1.</param>
    protected static TheoryData<string, string, string> Half(string bed, int first) =>
        [.. Planted(bed).Where((_, number) => number % 2 == first)];

    private static (string Url, IDisposable Bed) Start(string bed, string fault)
    {
        if (bed is "paths" or "components")
        {
            Lacking.Skip("chromium");
            var drawn = new ScriptBed(bed == "paths", fault);
            return (drawn.Url, drawn);
        }

        if (bed == "csharp")
        {
            var pages = new AuditBed(fault);
            return (pages.Url + "bridges", pages);
        }

        var program = bed == "python" ? ProgramBed.InPython(fault) : ProgramBed.OfFiles(fault);
        return (program.Url, program);
    }

    private async Task<JsonElement> AuditAsync(string url, int? records = null)
    {
        var (status, begun) = await service.Service.ManageAsync(
            "proofs",
            new
            {
                means = "audit",
                url,
                rate = 1000,
                records,
            }
        );
        Assert.True(status == 200, begun.ToString());
        var (_, report) = await service.Service.ManageAsync($"proofs/{await service.Service.EndOfProofAsync()}");
        return report;
    }

    private static List<string> Told(JsonElement report) =>
        [
            .. report
                .GetProperty("findings")
                .EnumerateArray()
                .Select(one => (Finding: one, Example: one.GetProperty("examples")[0]))
                .Select(one =>
                    $"{one.Finding.GetProperty("code")} {one.Finding.GetProperty("message")} "
                    + $"{one.Example.GetProperty("says")} {one.Example.GetProperty("request")}"
                ),
        ];

    private static List<string> Gaps(JsonElement report) =>
        [.. report.GetProperty("notSeen").EnumerateArray().Select(gap => gap.ToString())];

    protected async Task AssertRightAsync(string bed, string fault)
    {
        var (url, running) = Start(bed, fault);
        using (running)
        {
            var report = await AuditAsync(url);
            // Where a script draws, a machine with very much to do can be too late once.
            if (running is ScriptBed && Told(report).Count + Gaps(report).Count > 0)
                report = await AuditAsync(url);
            Assert.Empty(Told(report));
            Assert.Empty(Gaps(report));
            Assert.Contains(report.GetProperty("seen").EnumerateArray(), one =>
                one.GetProperty("name").GetString() == "records" && one.GetProperty("count").GetInt32() == 12
            );
            if (running is ScriptBed drawn)
                Assert.Empty(drawn.Changing);
        }
    }

    protected async Task AssertFoundAsync(string bed, string fault, string code)
    {
        var (url, running) = Start(bed, fault);
        using (running)
        {
            var told = Told(await AuditAsync(url, running is ScriptBed ? 6 : 20));
            if (running is ScriptBed && !told.Exists(IsExpected))
                told = Told(await AuditAsync(url, 6));
            Assert.True(told.Exists(IsExpected), string.Join('\n', told));
            // An address in the fragment is no request.
            if (bed != "components")
                Assert.Contains(" curl -i 'http://", told.Find(IsExpected)!);
        }

        bool IsExpected(string one) => one.StartsWith(code, StringComparison.Ordinal);
    }
}
