using Jexa.Core.Compiler;

namespace Jexa.Service.Hosting;

/// <summary>Watches the files that are compiled with the app file: the bodies of pages, and their parts.</summary>
internal sealed class BesideFiles
{
    private IReadOnlyCollection<string> _files = [];
    private string _taken = "";

    /// <summary>What changes when somebody saves one of the files.</summary>
    public string State => string.Join(' ', _files.Select(StateOf));

    /// <summary>Whether one of the files was saved since it was taken.</summary>
    public bool HasChanged => State != _taken;

    /// <summary>Takes the files of a compilation.</summary>
    /// <param name="before">Their state before it was made. Who saves a file while it is compiled is not overlooked: then, and
    /// if there are other files than before, <see cref="HasChanged"/> says so.</param>
    public void Take(Compilation compilation, string before)
    {
        _taken = before;
        if (compilation.Partial is { } site)
            _files = site.Beside;
    }

    /// <summary>Takes the files of a compilation that was made just now.</summary>
    public void Take(Compilation compilation)
    {
        Take(compilation, "");
        _taken = State;
    }

    /// <summary>What changes when somebody saves a file.</summary>
    public static string StateOf(string path)
    {
        var file = new FileInfo(path);
        return file.Exists ? $"{file.LastWriteTimeUtc.Ticks}:{file.Length}" : "none";
    }
}
