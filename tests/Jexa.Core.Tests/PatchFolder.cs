using System.Diagnostics;

namespace Jexa.Core.Tests;

/// <summary>A folder in which a patch is applied by git, as its readers do.</summary>
internal sealed class PatchFolder : IDisposable
{
    private readonly string _path = Directory.CreateTempSubdirectory("jexa-patch").FullName;

    /// <summary>The text that a patch makes of another one.</summary>
    public string Patched(string before, string patch)
    {
        var file = Path.Combine(_path, "app.yaml");
        File.WriteAllText(file, before);
        if (patch.Length == 0)
            return before;
        File.WriteAllText(Path.Combine(_path, "a.patch"), patch);
        var start = new ProcessStartInfo("git", ["apply", "--unidiff-zero", "a.patch"])
        {
            WorkingDirectory = _path,
            RedirectStandardError = true,
        };
        using var git = Process.Start(start)!;
        var trouble = git.StandardError.ReadToEnd();
        git.WaitForExit();
        Assert.True(git.ExitCode == 0, trouble + patch);
        return File.ReadAllText(file);
    }

    public void Dispose() => Directory.Delete(_path, recursive: true);
}
