using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Decimal numbers that a list is filtered by; never an ID. A point, no exponent, at most 28 digits. Canonical: no plus, no
/// zeros that say nothing.
/// </summary>
public sealed class NumberKey : KeyType
{
    private const int MaxLength = 64;

    private NumberKey()
    {
    }

    public static NumberKey Instance { get; } = new();

    public override FieldType Type => FieldType.Decimal;

    public override string Looks => "a number, such as 42 or 42.5";

    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        if (id.Length > MaxLength) return KeyReading.Failed(KeyFault.TooLong);
        Span<byte> bytes = stackalloc byte[MaxLength * 3];
        bytes = bytes[..System.Text.Encoding.UTF8.GetBytes(id, bytes)];
        if (!TypedText.IsDecimal(bytes)) return KeyReading.Failed(KeyFault.WrongForm);
        if (!decimal.TryParse(id, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number))
            return KeyReading.Failed(KeyFault.OutOfRange);
        var value = new Constant.Number(number);
        return KeyReading.Of(value, id.SequenceEqual(Write(value)));
    }

    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        switch (cell.Kind)
        {
            case CellKind.Integer:
                into.Append(cell.Integer);
                return true;
            case CellKind.Decimal:
                into.Append(row.Run(column));
                return true;
            case CellKind.Real when Math.Abs(cell.Real) < 1e15:
                into.Append(Write(new Constant.Number((decimal)cell.Real)));
                return true;
            default:
                return false;
        }
    }

    public override string Write(Constant value) => ((Constant.Number)value).Value.ToString("0.############################", CultureInfo.InvariantCulture);

    public override Constant ValueOf(Row row, int column) =>
        row[column].Kind switch
        {
            CellKind.Integer => new Constant.Number(row[column].Integer),
            CellKind.Real => new Constant.Number((decimal)row[column].Real),
            _ => new Constant.Number(decimal.Parse(row.Text(column), CultureInfo.InvariantCulture)),
        };

    public override bool Holds(in Cell cell) => cell.Kind is CellKind.Integer or CellKind.Decimal or CellKind.Real;

    public override KeyMatch Compare(Row row, int column, Constant asked) =>
        Holds(row[column]) && ValueOf(row, column).Equals(asked) ? KeyMatch.Exact : KeyMatch.None;
}
