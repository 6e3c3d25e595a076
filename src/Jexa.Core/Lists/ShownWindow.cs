using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Lists;

/// <summary>A window of a list, loaded.</summary>
/// <param name="Window">The window that is shown. It differs from the requested one if that reached the beginning.</param>
/// <param name="From">The number of the first row, from 1; null if it is not known.</param>
/// <param name="HasUnreachable">Whether more rows follow, but no address can say where the next window begins.</param>
internal sealed record ShownWindow(
    RowBlock Rows,
    WindowRequest Window,
    long? From,
    Total Total,
    WindowLinks Links,
    bool HasUnreachable
);
