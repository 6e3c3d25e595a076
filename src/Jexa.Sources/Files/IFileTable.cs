namespace Jexa.Sources.Files;

/// <summary>A file of records: its columns, and its rows, which can be read several times.</summary>
internal interface IFileTable
{
    IReadOnlyList<string> Columns { get; }

    /// <summary>The rows in the order of the file.</summary>
    /// <exception cref="FileFault">A row cannot be read.</exception>
    IEnumerable<FileRow> Rows();
}
