using System.Diagnostics;

namespace Jexa.Service.Tests;

/// <summary>A file system in memory with room for little.</summary>
internal sealed class SmallDisk : IDisposable
{
    private readonly string _folder;

    private SmallDisk(string folder) => _folder = folder;

    public static SmallDisk? TryMake(string folder, string size = "256k")
    {
        Directory.CreateDirectory(folder);
        return Run("mount", "-t", "tmpfs", "-o", $"size={size}", "tmpfs", folder) ? new SmallDisk(folder) : null;
    }

    public void Fill()
    {
        using var filler = new FileStream(
            Path.Combine(_folder, "filler"),
            FileMode.Create,
            FileAccess.Write,
            FileShare.None,
            bufferSize: 0
        );
        try
        {
            for (var i = 0; i < 10_000; i++)
                filler.Write(new byte[512]);
        }
        catch (IOException)
        {
            // That is what it is for.
        }
    }

    public void Empty() => File.Delete(Path.Combine(_folder, "filler"));

    public void Dispose() => Run("umount", "-l", _folder);

    private static bool Run(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardError = true })!;
        process.WaitForExit();
        return process.ExitCode == 0;
    }
}
