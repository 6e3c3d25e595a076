using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Proof;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Service.Media;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>A copy of the demo, into which faults are planted.</summary>
public sealed class Planted : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("jexa-planted-").FullName;
    private string _app = File.ReadAllText(Repository.File("demo/bridges.yaml"));

    /// <param name="made">A folder with the demo's data.</param>
    public Planted(string made)
    {
        foreach (var text in new[] { "about.md", "not-found.md" })
            File.Copy(Repository.File($"demo/{text}"), Path.Combine(_folder, text));
        Directory.CreateDirectory(Path.Combine(_folder, "designs"));
        foreach (var file in Directory.GetFiles(Repository.File("demo/designs")))
            File.Copy(file, Path.Combine(_folder, "designs", Path.GetFileName(file)));
        Directory.CreateDirectory(Path.Combine(_folder, "data"));
        File.Copy(Path.Combine(made, "data", "register.db"), Database);
        foreach (var files in new[] { "photos", "recordings" })
            Directory.CreateSymbolicLink(Path.Combine(_folder, "data", files), Path.Combine(made, "data", files));
    }

    private string Database => Path.Combine(_folder, "data", "register.db");

    public void Change(string good, string bad)
    {
        Assert.Contains(good, _app);
        _app = _app.Replace(good, bad);
    }

    /// <summary>Changes a text file beside the app file.</summary>
    public void Write(string name, string text) => File.WriteAllText(Path.Combine(_folder, name), text);

    public void Run(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "PRAGMA foreign_keys = off; PRAGMA ignore_check_constraints = on; " + sql;
        Assert.NotEqual(0, command.ExecuteNonQuery());
    }

    /// <summary>What the check finds, a line each.</summary>
    public async Task<IReadOnlyList<string>> CheckAsync()
    {
        await using var sources = SourceEngines.Open();
        return [.. (await CompileAsync(sources)).Findings.Select(finding => $"{finding.Code.Id} {finding.Message}")];
    }

    /// <summary>What the sweep finds, a line each; what a source that is away hides is not among it.</summary>
    /// <param name="only">Only these pages and records.</param>
    public async Task<IReadOnlyList<string>> SweepAsync(params string[] only)
    {
        var (faults, result) = await SweepAsync(() => { }, only);
        Assert.All(result.NotRead, part => Assert.Contains("gauge", part.Part));
        return faults;
    }

    /// <param name="meanwhile">Called after each window.</param>
    public async Task<(IReadOnlyList<string> Faults, SweepResult Result)> SweepAsync(Action meanwhile, params string[] only)
    {
        await using var sources = SourceEngines.Open();
        var compilation = await CompileAsync(sources);
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        var limits = new SweepLimits { Only = only.Where(name => name.Length > 0).ToHashSet(), Window = 700 };
        var sweep = new Sweep(compilation.Site, compilation.Definition!, limits, FolderFiles.Has, TimeProvider.System);
        var result = await sweep.RunAsync(SweepMark.Start, _ => { }, _ => meanwhile(), CancellationToken.None);
        var settings = new FindingSettings(compilation.Definition!.Settings);
        var faults = result
            .Faults.Where(fault =>
                settings.Of(
                    fault.Code,
                    compilation.Definition.PageAt(fault.At),
                    compilation.Definition.RecordAt(fault.At),
                    fault.About
                )
                    is not null
            )
            .ToList();
        Assert.All(faults, fault => Assert.InRange(fault.Count, 1, 100_000));
        Assert.All(faults, fault => Assert.NotEmpty(fault.Examples));
        IEnumerable<string> unused =
            limits.Only.Count > 0
                ? []
                : settings.Unused(ProofCodes.IsMetBySweep).Select(one => $"{one.Code.Id} {one.Found}: unused");
        return ([.. faults.Select(fault => $"{fault.Code.Id} {fault.About}: {fault.Message}"), .. unused], result);
    }

    private Task<Compilation> CompileAsync(SourceRegistry sources)
    {
        var file = Path.Combine(_folder, "bridges.yaml");
        File.WriteAllText(file, _app);
        return AppFileCompiler.CompileAsync(file, sources, Mount.Root, CancellationToken.None);
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);
}
