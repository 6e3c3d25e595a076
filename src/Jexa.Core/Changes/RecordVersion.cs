using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>Identifies versions of a record.</summary>
internal static class RecordVersion
{
    /// <summary>The record's version: a keyed digest of all columns, as they are stored.</summary>
    /// <param name="page">What else its representation depends on.</param>
    public static string Of(Row row, IReadOnlyList<StoredColumn> columns, string page, byte[] key)
    {
        using var digest = IncrementalHash.CreateHMAC(HashAlgorithmName.SHA256, key);
        digest.AppendData(Encoding.UTF8.GetBytes(page));
        foreach (var column in columns)
        {
            var value = column.IsWithheld(row) ? StoredValue.Withheld : StoredValue.Of(row, column.Ordinal);
            var text = value is TypedValue.Bytes bytes ? Convert.ToHexString(bytes.Value) : value.ToString()!;
            digest.AppendData(Encoding.UTF8.GetBytes($"\n{column.Field.Name}:{value.GetType().Name}:{text.Length}:{text}"));
        }

        return Convert.ToHexStringLower(digest.GetHashAndReset().AsSpan(0, 12));
    }
}
