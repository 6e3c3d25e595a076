using System.Buffers.Binary;
using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Unicode;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>A place in a list: the order columns of one of its rows, and which row it was when it was shown.</summary>
/// <param name="Number">Counts from 1; rows that have come or gone since are not in it.</param>
public sealed record ListPlace(IReadOnlyList<Constant> Values, long Number);

/// <summary>
/// Writes and reads the place where a list goes on: the order columns of a window's last row, sealed so that nobody can
/// make up another. Base64url without padding: version, values, then eight bytes of HMAC-SHA256 over list, order and values.
/// </summary>
public sealed class ListCursor(byte[] secret)
{
    private const byte Version = 2;
    private const int SealLength = 8;
    private const int MaxBytes = 6 * 1024;

    /// <summary>The cursor behind a row; null where a value is too long for an address or is not text that can be read back.</summary>
    public string? Write(ListPage page, Row row, long number)
    {
        using var bytes = new Utf8Buffer(256);
        bytes.Append(Version);
        BinaryPrimitives.WriteInt64BigEndian(bytes.Room(8), number);
        bytes.Advance(8);
        foreach (var key in page.Windows.Keys)
        {
            ref readonly var cell = ref row[key.Ordinal];
            bytes.Append((byte)cell.Kind);
            switch (cell.Kind)
            {
                case CellKind.Null:
                    break;
                case CellKind.Text:
                case CellKind.Bytes:
                    var run = row.Run(key.Ordinal);
                    if (run.Length > MaxBytes || (cell.Kind == CellKind.Text && !Utf8.IsValid(run))) return null;
                    BinaryPrimitives.WriteUInt16BigEndian(bytes.Room(2), (ushort)run.Length);
                    bytes.Advance(2);
                    bytes.Append(run);
                    break;
                default:
                    BinaryPrimitives.WriteInt64BigEndian(bytes.Room(8), cell.Integer);
                    bytes.Advance(8);
                    break;
            }
        }

        if (bytes.Length > MaxBytes) return null;
        Span<byte> seal = stackalloc byte[SealLength];
        Seal(page, bytes.Written, seal);
        bytes.Append(seal);
        return Base64Url.EncodeToString(bytes.Written);
    }

    /// <summary>The place; null where the text is no cursor of this list.</summary>
    public ListPlace? Read(ListPage page, string text)
    {
        if (text.Length > MaxBytes * 2 || !Base64Url.IsValid(text)) return null;
        var bytes = Base64Url.DecodeFromChars(text).AsSpan();
        if (bytes.Length <= SealLength + 9 || bytes[0] != Version) return null;
        Span<byte> seal = stackalloc byte[SealLength];
        Seal(page, bytes[..^SealLength], seal);
        if (!CryptographicOperations.FixedTimeEquals(seal, bytes[^SealLength..])) return null;

        var number = BinaryPrimitives.ReadInt64BigEndian(bytes[1..]);
        var rest = bytes[9..^SealLength];
        var values = new List<Constant>();
        while (!rest.IsEmpty)
        {
            var kind = (CellKind)rest[0];
            rest = rest[1..];
            values.Add(Take(kind, ref rest));
        }

        return values.Count == page.Windows.Keys.Count ? new ListPlace(values, number) : null;
    }

    private static Constant Take(CellKind kind, ref Span<byte> rest)
    {
        if (kind == CellKind.Null) return Constant.Empty.Value;
        if (kind is CellKind.Text or CellKind.Bytes)
        {
            var run = rest.Slice(2, BinaryPrimitives.ReadUInt16BigEndian(rest));
            rest = rest[(2 + run.Length)..];
            return kind == CellKind.Text ? new Constant.Text(Encoding.UTF8.GetString(run)) : new Constant.Bytes(run.ToArray());
        }

        var bits = BinaryPrimitives.ReadInt64BigEndian(rest);
        rest = rest[8..];
        return kind == CellKind.Real ? new Constant.Real(BitConverter.Int64BitsToDouble(bits)) : new Constant.Whole(bits);
    }

    private void Seal(ListPage page, ReadOnlySpan<byte> values, Span<byte> seal)
    {
        using var sealing = IncrementalHash.CreateHMAC(HashAlgorithmName.SHA256, secret);
        sealing.AppendData(Encoding.UTF8.GetBytes(page.Windows.Signature(page.Name)));
        sealing.AppendData([0]);
        sealing.AppendData(values);
        Span<byte> whole = stackalloc byte[32];
        sealing.GetHashAndReset(whole);
        whole[..SealLength].CopyTo(seal);
    }
}
