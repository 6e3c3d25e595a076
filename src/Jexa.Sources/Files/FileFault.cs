namespace Jexa.Sources.Files;

/// <summary>A file that cannot be read as a table: what is wrong, and where.</summary>
internal sealed class FileFault(string sentence, string remedy) : Exception(sentence)
{
    public string Remedy { get; } = remedy;
}
