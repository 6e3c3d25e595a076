using Jexa.Core.Definitions;

namespace Jexa.Service.Hosting;

/// <summary>The files beside the app file that are compiled with it: the bodies of pages.</summary>
internal static class BesideFiles
{
    public static IReadOnlyList<string> Of(AppDefinition definition) =>
        [.. definition.Bodies.Select(body => body.Value).Distinct().Select(name => Path.GetFullPath(name, definition.Folder))];

    /// <summary>What changes when somebody saves one of the files.</summary>
    public static string StateOf(IReadOnlyList<string> files) => string.Join(' ', files.Select(StateOf));

    /// <summary>What changes when somebody saves a file.</summary>
    public static string StateOf(string path)
    {
        var file = new FileInfo(path);
        return file.Exists ? $"{file.LastWriteTimeUtc.Ticks}:{file.Length}" : "none";
    }
}
