using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Jexa.Core.Files;

namespace Jexa.Sources.Files;

/// <summary>
/// A file of comma-separated values (RFC 4180), or with semicolons, tabs or bars between them. UTF-8, with or without a byte
/// order mark, or UTF-16 with one. The first line has the names of the columns.
/// </summary>
internal sealed class CsvTable : IFileTable
{
    private static readonly string[] Separators = [",", ";", "\t", "|"];

    private readonly string _path;
    private readonly string _name;
    private readonly string _separator;

    /// <exception cref="FileFault">It has no heading, or one that cannot be used.</exception>
    public CsvTable(string path)
    {
        _path = path;
        _name = Path.GetFileName(path);
        _separator = SeparatorOf(path);
        using var parser = Open(out var reader);
        using (reader)
        {
            if (!Read(parser))
                throw new FileFault($"{_name} is empty.", "Write the columns' names into its first line.");
            Columns = [.. parser.Record!.Select(name => name.Trim())];
        }

        if (Columns.Any(column => column.Length == 0))
            throw new FileFault(
                $"{_name}, line 1: column {Columns.ToList().IndexOf("") + 1} has no name.",
                "Name every column in the first line."
            );
        if (
            Columns.GroupBy(column => column, StringComparer.OrdinalIgnoreCase).FirstOrDefault(group => group.Count() > 1) is
            { } twice
        )
            throw new FileFault($"{_name}, line 1: two columns are called {twice.Key}.", "Give one of them another name.");
    }

    public IReadOnlyList<string> Columns { get; }

    public IEnumerable<FileRow> Rows()
    {
        using var parser = Open(out var reader);
        using (reader)
        {
            Read(parser);
            while (true)
            {
                var line = parser.RawRow + 1;
                if (!Read(parser))
                    yield break;
                var values = parser.Record!;

                // An empty line is not a row.
                if (values.Length == 1 && values[0].Length == 0 && Columns.Count > 1)
                    continue;
                if (values.Length != Columns.Count)
                    throw new FileFault(
                        $"{_name}, line {line}: there are {values.Length} values, and {Columns.Count} columns.",
                        "Write a value for each column; one that holds a separator or a line break goes into quotes."
                    );
                var row = new string?[values.Length];
                for (var i = 0; i < values.Length; i++)
                    row[i] = values[i].Length == 0 ? null : values[i];
                yield return new FileRow($"line {line}", row);
            }
        }
    }

    private CsvParser Open(out StreamReader reader)
    {
        reader = new StreamReader(
            PlainFile.OpenRead(_path),
            new UTF8Encoding(false, throwOnInvalidBytes: true),
            detectEncodingFromByteOrderMarks: true,
            bufferSize: 1 << 16
        );
        return new CsvParser(
            reader,
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = _separator,
                Mode = CsvMode.RFC4180,
                IgnoreBlankLines = false,
                MaxFieldSize = 4 << 20,
                BadDataFound = bad =>
                    throw new FileFault(
                        $"{_name}, line {bad.Context.Parser!.RawRow}: a quotation mark is not allowed here.",
                        "Put the whole value into quotes, and write a quotation mark within it twice."
                    ),
            },
            leaveOpen: true
        );
    }

    private bool Read(CsvParser parser)
    {
        var line = parser.RawRow + 1;
        try
        {
            if (!parser.Read())
                return false;
        }
        catch (DecoderFallbackException)
        {
            throw new FileFault(
                $"{_name}, line {LineOfBadByte()}: there are bytes that are not UTF-8.",
                "Save the file as UTF-8."
            );
        }
        catch (MaxFieldSizeException)
        {
            throw new FileFault(
                $"{_name}, line {line}: a value has more than {4 << 20:N0} characters; its closing quotation "
                    + "mark may be missing.",
                "Close the quotation mark."
            );
        }

        // If quotes are not closed at the end of the file, the value is taken as it is.
        if (parser.RawRecord is { Length: > 0 } raw && raw.AsSpan().Count('"') % 2 == 1)
            throw new FileFault(
                $"{_name}, line {line}: the quotation marks do not come in pairs.",
                "Close the one that is open, and write a quotation mark within a value twice."
            );
        return true;
    }

    private int LineOfBadByte()
    {
        var line = 1;
        foreach (var bytes in Lines())
        {
            if (!System.Text.Unicode.Utf8.IsValid(bytes))
                return line;
            line++;
        }

        return line;
    }

    private IEnumerable<byte[]> Lines()
    {
        using var file = new BufferedStream(PlainFile.OpenRead(_path), 1 << 16);
        var line = new List<byte>();
        int read;
        while ((read = file.ReadByte()) >= 0)
        {
            line.Add((byte)read);
            if (read != '\n')
                continue;
            yield return [.. line];
            line.Clear();
        }

        if (line.Count > 0)
            yield return [.. line];
    }

    /// <summary>The separator that occurs most often in the first line, outside quotes.</summary>
    private static string SeparatorOf(string path)
    {
        using var reader = new StreamReader(PlainFile.OpenRead(path), Encoding.UTF8, detectEncodingFromByteOrderMarks: true);
        var first = new char[4096];
        var length = reader.ReadBlock(first, 0, first.Length);
        var counts = new int[Separators.Length];
        var quoted = false;
        foreach (var c in first.AsSpan(0, length))
        {
            if (c == '"')
                quoted = !quoted;
            if (quoted)
                continue;
            if (c is '\n' or '\r')
                break;
            for (var i = 0; i < Separators.Length; i++)
                if (Separators[i][0] == c)
                    counts[i]++;
        }

        return Separators[Array.IndexOf(counts, counts.Max())];
    }
}
