using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>
/// Where the file is that a field names. A file in a folder has an address of its record: record kind, field and ID. So it can be
/// seen only if its record can.
/// </summary>
/// <param name="address">The addresses of files in a folder.</param>
public sealed class FilePlan(FilePlace place, FieldForm form, int ordinal, RecordAddress address)
{
    /// <summary>The largest picture, in bytes.</summary>
    public const long MostOfPicture = 20 * 1024 * 1024;

    /// <summary>The largest file to show, in bytes.</summary>
    public long MostBytes => form == FieldForm.Picture ? MostOfPicture : long.MaxValue;

    /// <summary>The folder of the file; null if files come from the web.</summary>
    public string? Folder => place.Folder;

    /// <summary>The name in the field; empty for none.</summary>
    public string NameOf(Row row) => row[ordinal].Kind == CellKind.Text ? row.Text(ordinal) : "";

    /// <summary>
    /// Whether the app file names neither folder nor URL for the files. Then each value must be a whole URL.
    /// </summary>
    public bool HasNoPlace => place is { Folder: null, Base: null };

    /// <summary>Whether the field holds the name of a file, and the app file names neither folder nor URL.</summary>
    public bool LacksPlace(Row row) =>
        HasNoPlace && NameOf(row) is { Length: > 0 } name && !Uri.TryCreate(name, UriKind.Absolute, out _);

    /// <summary>
    /// Appends the address of the file. False, and nothing appended, if the row names none that can be loaded.
    /// </summary>
    public bool TryWrite(Row row, Utf8Buffer into)
    {
        var name = NameOf(row);
        if (name.Length == 0)
            return false;
        return place.Folder is null ? TryWriteWeb(name, into) : address.TryWrite(row, into);
    }

    private bool TryWriteWeb(string name, Utf8Buffer into)
    {
        if (place.Base is { } origin)
        {
            // A name stays below the base, whatever it contains.
            var path = string.Join(
                '/',
                name.Split('/').Where(part => part is not ("" or "." or "..")).Select(Uri.EscapeDataString)
            );
            if (path.Length == 0)
                return false;
            into.Append(origin.AbsoluteUri);
            into.Append(path);
            return true;
        }

        if (
            !Uri.TryCreate(name, UriKind.Absolute, out var uri)
            || uri.Scheme is not ("http" or "https")
            || uri.UserInfo.Length > 0
        )
            return false;
        into.Append(uri.AbsoluteUri);
        return true;
    }
}
