using System.Collections;
using System.Globalization;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Constants as cells of a block, one a row, and back again without loss. The log holds many traces for long, and every object of a visit's own that it held on to would have to
/// be looked at, and moved, by the garbage collector: a block is two arrays, used again for the next visit.
/// </summary>
internal sealed class KeptConstants : IReadOnlyList<Constant>
{
    private RowBlock? _block;
    private int _start;

    public int Count { get; private set; }

    public Constant this[int index] => Read(_block!, _start + index);

    /// <summary>Appends constants, and stands for them from now on.</summary>
    public void Keep(IReadOnlyList<Constant> constants, RowBlock block)
    {
        (_block, _start, Count) = (block, block.Count, constants.Count);
        for (var i = 0; i < constants.Count; i++) Add(constants[i], block);
    }

    public IEnumerator<Constant> GetEnumerator()
    {
        for (var i = 0; i < Count; i++) yield return this[i];
    }

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    public static void Add(Constant? value, RowBlock block)
    {
        block.BeginRow();
        switch (value)
        {
            case Constant.Whole whole:
                block.AddNumber(CellKind.Integer, whole.Value);
                break;
            case Constant.Text text:
                block.AddText(text.Value);
                break;
            case Constant.Uuid uuid:
                Span<byte> sixteen = stackalloc byte[16];
                uuid.Value.TryWriteBytes(sixteen, bigEndian: true, out _);
                block.AddRun(CellKind.Uuid, sixteen);
                break;
            case Constant.Date date:
                block.AddNumber(CellKind.Date, date.Value.DayNumber);
                break;
            case Constant.Moment moment:
                block.AddNumber(CellKind.Timestamp, moment.Value.Ticks);
                break;
            case Constant.Number number:
                Span<byte> digits = stackalloc byte[40];
                number.Value.TryFormat(digits, out var written, default, CultureInfo.InvariantCulture);
                block.AddRun(CellKind.Decimal, digits[..written]);
                break;
            case Constant.Truth truth:
                block.AddNumber(CellKind.Boolean, truth.Value ? 1 : 0);
                break;
            case Constant.Real real:
                block.AddReal(real.Value);
                break;
            case Constant.Bytes bytes:
                block.AddRun(CellKind.Bytes, bytes.Value);
                break;
            default:
                block.AddNull();
                break;
        }
    }

    public static Constant Read(RowBlock block, int index)
    {
        var row = block[index];
        ref readonly var cell = ref row[0];
        return cell.Kind switch
        {
            CellKind.Integer => new Constant.Whole(cell.Integer),
            CellKind.Text => new Constant.Text(row.Text(0)),
            CellKind.Uuid => new Constant.Uuid(new Guid(row.Run(0), bigEndian: true)),
            CellKind.Date => new Constant.Date(DateOnly.FromDayNumber((int)cell.Integer)),
            CellKind.Timestamp => new Constant.Moment(new DateTime(cell.Integer)),
            CellKind.Decimal => new Constant.Number(decimal.Parse(row.Run(0), NumberStyles.Number, CultureInfo.InvariantCulture)),
            CellKind.Boolean => new Constant.Truth(cell.Integer == 1),
            CellKind.Real => new Constant.Real(cell.Real),
            CellKind.Bytes => new Constant.Bytes(row.Run(0).ToArray()),
            _ => Constant.Empty.Value,
        };
    }
}
