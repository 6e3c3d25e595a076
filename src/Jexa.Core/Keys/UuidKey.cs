using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// UUIDs (RFC 9562). Canonical: lower-case hexadecimal digits as 8-4-4-4-12. Upper case, braces and the form without hyphens mean
/// the same UUID.
/// </summary>
public sealed class UuidKey : KeyType
{
    /// <summary>The framework's own reader accepts more forms than these.</summary>
    private static readonly System.Buffers.SearchValues<char> Digits = System.Buffers.SearchValues.Create(
        "0123456789abcdefABCDEF-"
    );

    private UuidKey() { }

    /// <summary>The only instance.</summary>
    public static UuidKey Instance { get; } = new();

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Uuid;

    /// <inheritdoc/>
    public override string Looks => "a UUID, such as 0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        if (id.Length is not (32 or 36 or 38))
            return KeyReading.Failed(id.Length > 38 ? KeyFault.TooLong : KeyFault.WrongForm);
        var form = id.Length switch
        {
            32 => "N",
            36 => "D",
            _ => "B",
        };
        if ((form == "B" ? id[1..^1] : id).ContainsAnyExcept(Digits) || !Guid.TryParseExact(id, form, out var value))
            return KeyReading.Failed(KeyFault.WrongForm);
        Span<char> canonical = stackalloc char[36];
        value.TryFormat(canonical, out _);
        return KeyReading.Of(new TypedValue.Uuid(value), id.SequenceEqual(canonical));
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (row[column].Kind != CellKind.Uuid)
            return false;
        new Guid(row.Run(column), bigEndian: true).TryFormat(into.Room(36), out var written);
        into.Advance(written);
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => ((TypedValue.Uuid)value).Value.ToString("D", CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Uuid;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Uuid(new Guid(row.Run(column), bigEndian: true));

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        row[column].Kind == CellKind.Uuid
        && asked is TypedValue.Uuid uuid
        && new Guid(row.Run(column), bigEndian: true) == uuid.Value
            ? KeyMatch.Exact
            : KeyMatch.None;
}
