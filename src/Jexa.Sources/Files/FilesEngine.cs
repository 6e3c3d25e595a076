using Jexa.Core.Sources;

namespace Jexa.Sources.Files;

/// <summary>Folders of CSV and JSON files: <c>{ engine: files, connection: FOLDER }</c>.</summary>
public sealed class FilesEngine : ISourceEngine
{
    public string Name => "files";

    public bool TakesKeys => true;

    public ISource Open(SourceSettings settings) => new FilesSource(settings);
}
