using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Lists;

/// <summary>Turns stored cells into values that are sent back to their source.</summary>
internal static class CellValues
{
    /// <summary>The value; null if it is text that cannot be read back.</summary>
    public static TypedValue? Of(Row row, int ordinal)
    {
        ref readonly var cell = ref row[ordinal];
        return cell.Kind switch
        {
            CellKind.Null => TypedValue.Empty.Value,
            CellKind.Real => new TypedValue.Real(cell.Real),
            CellKind.Text or CellKind.Decimal => Utf8.IsValid(row.Run(ordinal)) ? new TypedValue.Text(row.Text(ordinal)) : null,
            CellKind.Bytes or CellKind.Uuid => new TypedValue.Bytes(row.Run(ordinal).ToArray()),
            _ => new TypedValue.Whole(cell.Integer),
        };
    }

    /// <summary>All values; null if one cannot be read back.</summary>
    public static TypedValue[]? Of(Row row, IReadOnlyList<int> ordinals)
    {
        var values = new TypedValue[ordinals.Count];
        for (var i = 0; i < values.Length; i++)
        {
            if (Of(row, ordinals[i]) is not { } value)
                return null;
            values[i] = value;
        }

        return values;
    }
}
