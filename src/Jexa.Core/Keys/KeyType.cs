using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// How one part of a key stands in an address: reads untrusted text into a typed value, and writes a cell or a value as
/// its one canonical text. <c>Read(Write(v))</c> is canonical and equals <c>v</c> for every value that can be written.
/// A further key type is a further class beside <see cref="IntegerKey"/>.
/// </summary>
public abstract class KeyType
{
    /// <summary>The longest ID in bytes of UTF-8; longer ones are malformed and never written.</summary>
    public const int MaxBytes = 4096;

    public abstract FieldType Type { get; }

    /// <summary>What a visitor is told an ID looks like, to follow "is": <c>a whole number, such as 42</c>.</summary>
    public abstract string Looks { get; }

    /// <summary>
    /// Reads one decoded ID. Never throws; the empty text is the caller's affair (it is missing, not malformed).
    /// </summary>
    public abstract KeyReading Read(ReadOnlySpan<char> id);

    /// <summary>
    /// Writes a row's key cell as ID text (UTF-8, not yet percent-encoded). False where the cell is of another storage
    /// class than the key, or no address can carry it: such a row has no address.
    /// </summary>
    public abstract bool TryWrite(Row row, int column, Utf8Buffer into);

    /// <summary>The canonical ID text of a value that <see cref="Read"/> gave.</summary>
    public abstract string Write(TypedValue value);

    /// <summary>The value of a loaded key cell that <see cref="Holds"/>.</summary>
    public abstract TypedValue ValueOf(Row row, int column);

    /// <summary>Whether a loaded key cell is of the key's own storage class.</summary>
    public abstract bool Holds(in Cell cell);

    /// <summary>How a loaded key cell compares with the value asked for.</summary>
    public abstract KeyMatch Compare(Row row, int column, TypedValue asked);

    /// <summary>The key type for a column, or null if there is none for its type.</summary>
    public static KeyType? For(ColumnSchema column, FieldType type, TextForm form) =>
        type switch
        {
            FieldType.Integer => IntegerKey.Between(column.Min, column.Max),
            FieldType.Text => TextKey.Of(column.FoldsCase, form),
            FieldType.Uuid => UuidKey.Instance,
            FieldType.Date => DateKey.Instance,
            FieldType.Boolean => BooleanKey.Instance,
            FieldType.Bytes => BytesKey.Instance,
            FieldType.Decimal when column.Rules.Scale == 0 => NumberKey.Whole,
            _ => null,
        };
}
