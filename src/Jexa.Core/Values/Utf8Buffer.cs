using System.Buffers;
using System.Buffers.Text;
using System.Runtime.CompilerServices;
using System.Text;

namespace Jexa.Core.Values;

/// <summary>
/// A growing buffer of UTF-8 bytes over one pooled array. Pages, addresses and cells are written into it, so that a visit
/// allocates no strings. Not thread-safe. Dispose it to return the array.
/// </summary>
public sealed class Utf8Buffer(int capacity = 1024) : IBufferWriter<byte>, IDisposable
{
    private byte[] _bytes = ArrayPool<byte>.Shared.Rent(capacity);

    /// <summary>How many bytes have been written.</summary>
    public int Length { get; private set; }

    /// <summary>The bytes written so far. Valid until the next write.</summary>
    public ReadOnlySpan<byte> Written => _bytes.AsSpan(0, Length);

    /// <summary>The bytes written so far, for asynchronous writers. Valid until the next write.</summary>
    public ReadOnlyMemory<byte> WrittenMemory => _bytes.AsMemory(0, Length);

    /// <summary>Removes everything after the first <paramref name="length"/> bytes.</summary>
    public void Truncate(int length) => Length = length;

    /// <summary>Appends bytes, which must be UTF-8.</summary>
    public void Append(ReadOnlySpan<byte> bytes)
    {
        bytes.CopyTo(Room(bytes.Length));
        Length += bytes.Length;
    }

    /// <summary>Appends one byte.</summary>
    public void Append(byte value)
    {
        Room(1)[0] = value;
        Length++;
    }

    /// <summary>Appends a text, encoded as UTF-8.</summary>
    public void Append(ReadOnlySpan<char> text)
    {
        var room = Room(Encoding.UTF8.GetMaxByteCount(text.Length));
        Length += Encoding.UTF8.GetBytes(text, room);
    }

    /// <summary>Appends a number in decimal digits.</summary>
    public void Append(long value)
    {
        Utf8Formatter.TryFormat(value, Room(20), out var written);
        Length += written;
    }

    /// <summary>
    /// Gives room for at least <paramref name="length"/> more bytes. Call <see cref="Advance"/> with the number that was used.
    /// </summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public Span<byte> Room(int length)
    {
        if (_bytes.Length - Length < length)
            Grow(length);
        return _bytes.AsSpan(Length);
    }

    /// <summary>Says that so many bytes were written into the span got before.</summary>
    public void Advance(int count) => Length += count;

    Memory<byte> IBufferWriter<byte>.GetMemory(int sizeHint)
    {
        Room(Math.Max(sizeHint, 256));
        return _bytes.AsMemory(Length);
    }

    Span<byte> IBufferWriter<byte>.GetSpan(int sizeHint) => Room(Math.Max(sizeHint, 256));

    /// <summary>The content as a string. For messages and tests, not for the hot path.</summary>
    public override string ToString() => Encoding.UTF8.GetString(Written);

    /// <summary>Gives the memory back to the pool.</summary>
    public void Dispose()
    {
        var bytes = _bytes;
        _bytes = [];
        Length = 0;
        if (bytes.Length > 0)
            ArrayPool<byte>.Shared.Return(bytes);
    }

    private void Grow(int needed)
    {
        var larger = ArrayPool<byte>.Shared.Rent(Math.Max(_bytes.Length * 2, Length + needed));
        _bytes.AsSpan(0, Length).CopyTo(larger);
        if (_bytes.Length > 0)
            ArrayPool<byte>.Shared.Return(_bytes);
        _bytes = larger;
    }
}
