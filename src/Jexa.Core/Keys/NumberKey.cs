using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Decimal numbers, for filters of lists and for keys that are whole numbers of more than 63 bits. They have a point, no exponent
/// and at most 28 digits. Canonical: no plus sign and no needless zeros.
/// </summary>
public sealed class NumberKey : KeyType
{
    private const int MaxLength = 64;
    private const int MaxDigits = 28;

    private readonly bool _isWhole;

    private NumberKey(bool isWhole) => _isWhole = isWhole;

    /// <summary>The only instance for numbers with decimals.</summary>
    public static NumberKey Instance { get; } = new(false);

    /// <summary>Numbers without a decimal part.</summary>
    public static NumberKey Whole { get; } = new(true);

    /// <summary>Whether a decimal part is not allowed.</summary>
    public bool IsWhole => _isWhole;

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Decimal;

    /// <inheritdoc/>
    public override string Looks => _isWhole ? "a whole number, such as 42" : "a number, such as 42 or 42.5";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        if (id.Length > MaxLength)
            return KeyReading.Failed(KeyFault.TooLong);
        Span<byte> bytes = stackalloc byte[MaxLength * 3];
        bytes = bytes[..System.Text.Encoding.UTF8.GetBytes(id, bytes)];
        if (!TypedText.IsDecimal(bytes))
            return KeyReading.Failed(KeyFault.WrongForm);
        if (
            !decimal.TryParse(
                id,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return KeyReading.Failed(KeyFault.OutOfRange);
        if (Digits(id) > MaxDigits)
            return KeyReading.Failed(KeyFault.OutOfRange);
        if (_isWhole && number != decimal.Truncate(number))
            return KeyReading.Failed(KeyFault.WrongForm);
        var value = new TypedValue.Number(number == 0 ? 0 : number);
        return KeyReading.Of(value, id.SequenceEqual(Write(value)));
    }

    /// <summary>
    /// Removes needless zeros: those before the first digit of the whole part, and those at the end of the decimal part.
    /// </summary>
    private static int Digits(ReadOnlySpan<char> id)
    {
        var digits = id.TrimStart("+-");
        var point = digits.IndexOf('.');
        var front = (point < 0 ? digits : digits[..point]).TrimStart('0');
        var behind = point < 0 ? default : digits[(point + 1)..].TrimEnd('0');
        return front.Length + behind.Length;
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        switch (cell.Kind)
        {
            case CellKind.Integer:
                into.Append(cell.Integer);
                return true;
            case CellKind.Decimal
                when decimal.TryParse(
                    row.Text(column),
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var number
                ):
                into.Append(Write(new TypedValue.Number(number)));
                return true;
            case CellKind.Real when Math.Abs(cell.Real) < 1e15:
                into.Append(Write(new TypedValue.Number((decimal)cell.Real)));
                return true;
            default:
                return false;
        }
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) =>
        ((TypedValue.Number)value).Value.ToString("0.############################", CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) =>
        row[column].Kind switch
        {
            CellKind.Integer => new TypedValue.Number(row[column].Integer),
            CellKind.Real => new TypedValue.Number((decimal)row[column].Real),
            _ => new TypedValue.Number(decimal.Parse(row.Text(column), CultureInfo.InvariantCulture)),
        };

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind is CellKind.Integer or CellKind.Decimal or CellKind.Real;

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        Held(row, column) is { } held && held.Equals(asked) ? KeyMatch.Exact : KeyMatch.None;

    /// <summary>The value; null if a decimal has more digits than an address can contain.</summary>
    private TypedValue? Held(Row row, int column) =>
        !Holds(row[column]) ? null
        : row[column].Kind == CellKind.Decimal && !decimal.TryParse(row.Text(column), CultureInfo.InvariantCulture, out _) ? null
        : ValueOf(row, column);
}
