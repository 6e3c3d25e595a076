using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// One part of a key in an address. It reads untrusted text into a typed value, and writes a cell or a value as its one canonical
/// text. For every value that can be written, <c>Read(Write(v))</c> is canonical and equals <c>v</c>. For a new key type, add a
/// class beside <see cref="IntegerKey"/>.
/// </summary>
public abstract class KeyType
{
    /// <summary>The longest ID in bytes of UTF-8. Longer ones are malformed and are never written.</summary>
    public const int MaxBytes = 4096;

    /// <summary>The type of the fields that this key reads.</summary>
    public abstract FieldType Type { get; }

    /// <summary>What an ID looks like, for visitors, to follow "is": <c>a whole number, such as 42</c>.</summary>
    public abstract string Looks { get; }

    /// <summary>
    /// Reads one decoded ID. Never throws. Do not call it with an empty text: that ID is missing, not malformed.
    /// </summary>
    public abstract KeyReading Read(ReadOnlySpan<char> id);

    /// <summary>
    /// Writes the key cell of a row as ID text (UTF-8, not yet percent-encoded). False if the cell has another storage class than
    /// the key, or if no address can contain it: such a row has no address.
    /// </summary>
    public abstract bool TryWrite(Row row, int column, Utf8Buffer into);

    /// <summary>The canonical ID text of a value that <see cref="Read"/> gave.</summary>
    public abstract string Write(TypedValue value);

    /// <summary>The value of a key cell for which <see cref="Holds"/> is true.</summary>
    public abstract TypedValue ValueOf(Row row, int column);

    /// <summary>Whether a key cell has the storage class of the key.</summary>
    public abstract bool Holds(in Cell cell);

    /// <summary>Compares a key cell with the value from the address.</summary>
    public abstract KeyMatch Compare(Row row, int column, TypedValue asked);

    /// <summary>The key type for a column; null if its type has none.</summary>
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
