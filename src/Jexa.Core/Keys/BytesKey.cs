using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Bytes, such as a hash. Canonical: two lower-case hexadecimal digits for each byte. Upper case means the same. Values longer
/// than 512 bits have no address.
/// </summary>
public sealed class BytesKey : KeyType
{
    private const int Most = 64;

    /// <summary>Hexadecimal digits in either case, as the framework reads them.</summary>
    private static readonly System.Buffers.SearchValues<char> Digits = System.Buffers.SearchValues.Create(
        "0123456789abcdefABCDEF"
    );

    private BytesKey() { }

    /// <summary>The only instance.</summary>
    public static BytesKey Instance { get; } = new();

    /// <summary>A regular expression for its texts, for programs without this class.</summary>
    public static string Pattern => "(?:[0-9a-f]{2}){1,64}";

    /// <summary>The most characters of its texts.</summary>
    public static int MostCharacters => 2 * Most;

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Bytes;

    /// <inheritdoc/>
    public override string Looks => "bytes in hexadecimal digits, such as 9f86d081884c7d65";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        if (id.Length > MostCharacters)
            return KeyReading.Failed(KeyFault.TooLong);
        if (id.IsEmpty || id.Length % 2 != 0 || id.ContainsAnyExcept(Digits))
            return KeyReading.Failed(KeyFault.WrongForm);
        return KeyReading.Of(new TypedValue.Bytes(Convert.FromHexString(id)), !id.ContainsAnyInRange('A', 'F'));
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (row[column].Kind != CellKind.Bytes || row[column].Length is 0 or > Most)
            return false;
        into.Append(Convert.ToHexStringLower(row.Run(column)));
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => Convert.ToHexStringLower(((TypedValue.Bytes)value).Value);

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Bytes && cell.Length is > 0 and <= Most;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Bytes(row.Run(column).ToArray());

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        row[column].Kind == CellKind.Bytes && asked is TypedValue.Bytes bytes && row.Run(column).SequenceEqual(bytes.Value)
            ? KeyMatch.Exact
            : KeyMatch.None;
}
