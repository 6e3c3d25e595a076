using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>Addresses of Jexa's own that end in the key of a record.</summary>
/// <param name="prefix">The address before the key.</param>
/// <param name="key">The values of the key.</param>
public sealed class RecordAddress(string prefix, IReadOnlyList<LinkFiller> key)
{
    private readonly byte[] _prefix = Encoding.ASCII.GetBytes(prefix);

    /// <summary>Appends the address. False, and nothing appended, if no address can contain the row's key.</summary>
    public bool TryWrite(Row row, Utf8Buffer into)
    {
        var start = into.Length;
        into.Append(_prefix);
        foreach (var part in key)
        {
            into.Append((byte)'/');
            using var id = new Utf8Buffer(64);
            if (!part.Key.TryWrite(row, part.Ordinal, id) || id.Written is [] or [(byte)'.'] or [(byte)'.', (byte)'.'])
            {
                into.Truncate(start);
                return false;
            }

            PercentCoding.Encode(id.Written, into);
        }

        return true;
    }
}
