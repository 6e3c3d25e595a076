using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Whole numbers of 64 bits, or fewer if the column holds fewer. Canonical: ASCII digits without leading zeros, and a minus for
/// negative numbers. <c>007</c>, <c>+7</c> and <c>-0</c> are other spellings of a number. <c>7.0</c>, <c>1e3</c>, <c>0x7</c>,
/// blanks and digits of other scripts are not accepted.
/// </summary>
public sealed class IntegerKey : KeyType
{
    /// <summary>Longer texts are refused, so that a very long run of zeros costs nothing.</summary>
    private const int MaxLength = 64;

    private IntegerKey(long min, long max) => (Min, Max) = (min, max);

    /// <summary>The least value that the column can hold.</summary>
    public long Min { get; }

    /// <summary>The greatest value that the column can hold.</summary>
    public long Max { get; }

    /// <summary>All whole numbers of 64 bits.</summary>
    public static IntegerKey Instance { get; } = new(long.MinValue, long.MaxValue);

    /// <summary>Whole numbers that the column's type can hold.</summary>
    public static IntegerKey Between(long min, long max) =>
        (min, max) == (long.MinValue, long.MaxValue) ? Instance : new IntegerKey(min, max);

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Integer;

    /// <inheritdoc/>
    public override string Looks => "a whole number, such as 42";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        var digits = id.Length > 0 && id[0] is '-' or '+' ? id[1..] : id;
        if (digits.IsEmpty || digits.IndexOfAnyExceptInRange('0', '9') >= 0)
            return KeyReading.Failed(KeyFault.WrongForm);
        if (id.Length > MaxLength)
            return KeyReading.Failed(KeyFault.TooLong);
        if (
            !long.TryParse(id, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var value)
            || value < Min
            || value > Max
        )
            return KeyReading.Failed(KeyFault.OutOfRange);
        var canonical = id[0] != '+' && (digits[0] != '0' || (digits.Length == 1 && id[0] != '-'));
        return KeyReading.Of(new TypedValue.Whole(value), canonical);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        ref readonly var cell = ref row[column];
        if (cell.Kind != CellKind.Integer)
            return false;
        into.Append(cell.Integer);
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => ((TypedValue.Whole)value).Value.ToString(CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Whole(row[column].Integer);

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Integer;

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        row[column].Kind == CellKind.Integer && asked is TypedValue.Whole whole && row[column].Integer == whole.Value
            ? KeyMatch.Exact
            : KeyMatch.None;
}
