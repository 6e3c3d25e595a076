using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Which window of a list an address asks for.</summary>
/// <param name="Place">Where it begins or, backwards, ends; null for the list's own beginning or end.</param>
/// <param name="Control">The control at fault, where there is a fault.</param>
internal readonly record struct WindowRequest(ListPlace? Place, bool Backwards, string Control, KeyFault Fault)
{
    public static WindowRequest Start => default;

    public IEnumerable<WindowQuery> Queries(ListPage page) => (Place, Backwards) switch
    {
        (null, false) => page.Windows.First,
        (null, true) => page.Windows.Last,
        (var place, false) => page.Windows.Behind(place.Values),
        (var place, true) => page.Windows.Before(place.Values),
    };
}

/// <summary>Reads a list's controls out of an address, and makes the view of the window they ask for.</summary>
internal static class WindowReader
{
    public static WindowRequest Read(ListPage page, RequestTarget target, ListCursor cursors, VisitTrace trace)
    {
        var after = ReadControl(ParameterReader.After, false, page, target, cursors, trace);
        var before = ReadControl(ParameterReader.Before, true, page, target, cursors, trace);
        if (after is not { } begins) return before ?? WindowRequest.Start;
        if (begins.Fault != KeyFault.None || before is null) return begins;

        // Behind one place and before another: no link of a list says both.
        return new WindowRequest(null, false, ParameterReader.Before, KeyFault.WrongForm);
    }

    /// <summary>The view of a window that was read to one row more than it shows, if there are so many.</summary>
    public static ListView View(
        Site site, ListPage page, WindowRequest window, RowBlock rows, Total total, ListCursor cursors, string? notice)
    {
        var more = rows.Count > ListPage.WindowSize;
        while (rows.Count > ListPage.WindowSize) rows.DropLastRow();
        if (window.Backwards) rows.Reverse();
        var (isFirst, isLast) = window.Backwards ? (!more, window.Place is null) : (window.Place is null, !more);
        var from = From(window, rows.Count, total, isFirst, isLast);

        var previous = isFirst || rows.Count == 0 ? null : cursors.Write(page, rows[0], from ?? 0);
        var next = isLast || rows.Count == 0 ? null : cursors.Write(page, rows[rows.Count - 1], (from ?? 1) + rows.Count - 1);
        var address = page.Shape.Address;
        var links = new WindowLinks(
            isFirst ? null : address,
            previous is null ? null : $"{address}?{ParameterReader.Before}={previous}",
            next is null ? null : $"{address}?{ParameterReader.After}={next}",
            isLast ? null : $"{address}?{ParameterReader.Before}={ParameterReader.End}");
        return new ListView(site.Frame, page.Name, page.Shape, rows, total, rows.Count == 0 ? null : from, links, !isLast && next is null, notice);
    }

    /// <summary>The number of the first row: told by whichever end is in sight, else by the place the window was asked from.</summary>
    private static long? From(WindowRequest window, int shown, Total total, bool isFirst, bool isLast)
    {
        if (isFirst) return 1;
        if (isLast && total.IsExact) return Math.Max(1, total.Count - shown + 1);
        if (window.Place is not { } place) return null;
        return Math.Max(1, window.Backwards ? place.Number - shown : place.Number + 1);
    }

    /// <summary>The window that one control asks for; null where the address does not have it.</summary>
    private static WindowRequest? ReadControl(
        string control, bool backwards, ListPage page, RequestTarget target, ListCursor cursors, VisitTrace trace)
    {
        var raw = ParameterReader.FromQuery(target, control);
        if (raw is { Fault: KeyFault.None, Text: null }) return null;
        var isEnd = backwards && raw is { Fault: KeyFault.None, Text: ParameterReader.End };
        var place = raw is { Fault: KeyFault.None, Text: { } text } && !isEnd ? cursors.Read(page, text) : null;
        var fault = raw.Fault != KeyFault.None ? raw.Fault : place is null && !isEnd ? KeyFault.WrongForm : KeyFault.None;
        trace.Add(new TracedParameter(control, raw.Text, KeyReading.Failed(fault)));
        return new WindowRequest(place, backwards, control, fault);
    }
}
