using System.Diagnostics;

namespace Jexa.Service.Tests;

/// <summary>A small application of somebody else that is a program of its own: in Python, or files of a plain server.</summary>
internal sealed class ProgramBed : IDisposable
{
    private readonly Process _process;
    private readonly DirectoryInfo? _folder;

    private ProgramBed(string[] arguments, Func<string, string?> addressIn, DirectoryInfo? folder = null)
    {
        Lacking.Skip("python3");
        _folder = folder;
        _process = Process.Start(
            new ProcessStartInfo("python3", ["-u", .. arguments]) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        _ = _process.StandardError.ReadToEndAsync();
        while (_process.StandardOutput.ReadLine() is { } line)
            if (addressIn(line) is { } address)
            {
                Url = address;
                return;
            }

        throw new InvalidOperationException("The application does not start.");
    }

    /// <summary>The address of the list.</summary>
    public string Url { get; }

    /// <summary>An application in Python, with codes as IDs in the path.</summary>
    public static ProgramBed InPython(string fault) =>
        new([Repository.File("tests/Jexa.Service.Tests/Beds/bed.py"), fault], line => line);

    /// <summary>Files of a plain server, one for each page.</summary>
    public static ProgramBed OfFiles(string fault)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bed-");
        FileBed.Write(folder.FullName, fault);
        return new ProgramBed(
            ["-m", "http.server", "0", "--bind", "127.0.0.1", "--directory", folder.FullName],
            line =>
                line.IndexOf("port ", StringComparison.Ordinal) is var at and >= 0
                    ? $"http://127.0.0.1:{line[(at + 5)..].Split(' ')[0]}/index.html"
                    : null,
            folder
        );
    }

    public void Dispose()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit(5_000);
        _process.Dispose();
        _folder?.Delete(recursive: true);
    }
}
