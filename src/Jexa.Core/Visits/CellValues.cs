using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>Cells, as they are stored, as values that travel back to their source.</summary>
internal static class CellValues
{
    /// <summary>The value; null where it is text that nobody can read back.</summary>
    public static Constant? Of(Row row, int ordinal)
    {
        ref readonly var cell = ref row[ordinal];
        return cell.Kind switch
        {
            CellKind.Null => Constant.Empty.Value,
            CellKind.Real => new Constant.Real(cell.Real),
            CellKind.Text or CellKind.Decimal => Utf8.IsValid(row.Run(ordinal)) ? new Constant.Text(row.Text(ordinal)) : null,
            CellKind.Bytes or CellKind.Uuid => new Constant.Bytes(row.Run(ordinal).ToArray()),
            _ => new Constant.Whole(cell.Integer),
        };
    }

    /// <summary>All of them; null where one cannot be read back.</summary>
    public static Constant[]? Of(Row row, IReadOnlyList<int> ordinals)
    {
        var values = new Constant[ordinals.Count];
        for (var i = 0; i < values.Length; i++)
        {
            if (Of(row, ordinals[i]) is not { } value)
                return null;
            values[i] = value;
        }

        return values;
    }
}
