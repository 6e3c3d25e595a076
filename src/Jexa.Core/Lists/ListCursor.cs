using System.Buffers.Binary;
using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Lists;

/// <summary>
/// Writes and reads the place where a list goes on: the order columns of a window's last row, signed so that nobody can invent
/// one. Base64url without padding: version, values, then eight bytes of HMAC-SHA256 over list, order and values.
/// </summary>
public sealed class ListCursor(byte[] secret)
{
    private const byte Version = 3;
    private const int SealLength = 8;
    private const int MaxBytes = 6 * 1024;

    /// <summary>
    /// The cursor for a row of the list; null if a value is too long for an address, or is text that cannot be read back.
    /// </summary>
    public string? Write(ListQuery list, Row row, long number) =>
        CellValues.Of(row, [.. list.Windows.Keys.Select(key => key.Ordinal)]) is { } values ? Write(list, values, number) : null;

    /// <summary>The cursor for a place; null if a value is too long for an address.</summary>
    public string? Write(ListQuery list, IReadOnlyList<TypedValue> values, long number)
    {
        using var bytes = new Utf8Buffer(256);
        bytes.Append(Version);
        Append(number, bytes);
        foreach (var value in values)
        {
            bytes.Append((byte)KindOf(value));
            switch (value)
            {
                case TypedValue.Empty:
                    break;
                case TypedValue.Whole whole:
                    Append(whole.Value, bytes);
                    break;
                case TypedValue.Real real:
                    Append(BitConverter.DoubleToInt64Bits(real.Value), bytes);
                    break;
                default:
                    var run = value is TypedValue.Bytes raw ? raw.Value : Encoding.UTF8.GetBytes(value.ToString()!);
                    if (run.Length > MaxBytes)
                        return null;
                    BinaryPrimitives.WriteUInt16BigEndian(bytes.Room(2), (ushort)run.Length);
                    bytes.Advance(2);
                    bytes.Append(run);
                    break;
            }
        }

        if (bytes.Length > MaxBytes)
            return null;
        Span<byte> seal = stackalloc byte[SealLength];
        Seal(list, bytes.Written, seal);
        bytes.Append(seal);
        return Base64Url.EncodeToString(bytes.Written);
    }

    /// <summary>The place; null if the text is not a cursor of this list.</summary>
    public ListPlace? Read(ListQuery list, string text)
    {
        if (text.Length > MaxBytes * 2 || !Base64Url.IsValid(text))
            return null;
        var bytes = Base64Url.DecodeFromChars(text).AsSpan();
        if (bytes.Length <= SealLength + 9 || bytes[0] != Version)
            return null;
        Span<byte> seal = stackalloc byte[SealLength];
        Seal(list, bytes[..^SealLength], seal);
        if (!CryptographicOperations.FixedTimeEquals(seal, bytes[^SealLength..]))
            return null;

        var number = BinaryPrimitives.ReadInt64BigEndian(bytes[1..]);
        var rest = bytes[9..^SealLength];
        var values = new List<TypedValue>();
        while (!rest.IsEmpty)
        {
            var kind = (CellKind)rest[0];
            rest = rest[1..];
            values.Add(Take(kind, ref rest));
        }

        return values.Count == list.Windows.Keys.Count ? new ListPlace(values, number) : null;
    }

    private static CellKind KindOf(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => CellKind.Null,
            TypedValue.Whole => CellKind.Integer,
            TypedValue.Real => CellKind.Real,
            TypedValue.Bytes => CellKind.Bytes,
            _ => CellKind.Text,
        };

    private static void Append(long value, Utf8Buffer bytes)
    {
        BinaryPrimitives.WriteInt64BigEndian(bytes.Room(8), value);
        bytes.Advance(8);
    }

    private static TypedValue Take(CellKind kind, ref Span<byte> rest)
    {
        if (kind == CellKind.Null)
            return TypedValue.Empty.Value;
        if (kind is CellKind.Text or CellKind.Bytes)
        {
            var run = rest.Slice(2, BinaryPrimitives.ReadUInt16BigEndian(rest));
            rest = rest[(2 + run.Length)..];
            return kind == CellKind.Text
                ? new TypedValue.Text(Encoding.UTF8.GetString(run))
                : new TypedValue.Bytes(run.ToArray());
        }

        var bits = BinaryPrimitives.ReadInt64BigEndian(rest);
        rest = rest[8..];
        return kind == CellKind.Real ? new TypedValue.Real(BitConverter.Int64BitsToDouble(bits)) : new TypedValue.Whole(bits);
    }

    private void Seal(ListQuery list, ReadOnlySpan<byte> values, Span<byte> seal)
    {
        using var sealedText = new Utf8Buffer(512);
        sealedText.Append(list.Signature);
        sealedText.Append((byte)0);
        sealedText.Append(values);
        Span<byte> whole = stackalloc byte[32];
        HMACSHA256.HashData(secret, sealedText.Written, whole);
        whole[..SealLength].CopyTo(seal);
    }
}
