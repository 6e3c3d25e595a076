using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>Reads which window of a list an address asks for.</summary>
internal static class WindowReader
{
    public static WindowRequest Read(
        ListPage page,
        ListRequest request,
        IReadOnlyList<QueryPair> pairs,
        ListCursor cursors,
        VisitTrace? trace
    )
    {
        var after = ReadControl(ParameterReader.After, page, request, pairs, cursors, trace);
        var before = ReadControl(ParameterReader.Before, page, request, pairs, cursors, trace);
        if (after is not { } begins)
            return before ?? WindowRequest.Start;
        if (begins.Fault != KeyFault.None || before is null)
            return begins;

        // No link of a list has both an "after" and a "before".
        return new WindowRequest(null, false, ParameterReader.Before, KeyFault.WrongForm);
    }

    /// <summary>
    /// The number of the first row: from the end of the list that is in sight, else from the place that was asked for.
    /// </summary>
    public static long? From(WindowRequest window, int shown, Total total, bool isFirst, bool isLast)
    {
        if (isFirst)
            return 1;
        if (isLast && total.IsExact)
            return Math.Max(1, total.Count - shown + 1);
        if (window.Place is not { Number: >= 0 } place)
            return null;
        return Math.Max(1, window.Backwards ? place.Number - shown : place.Number + 1);
    }

    /// <summary>The window that one control asks for; null if the address does not have the control.</summary>
    private static WindowRequest? ReadControl(
        string control,
        ListPage page,
        ListRequest request,
        IReadOnlyList<QueryPair> pairs,
        ListCursor cursors,
        VisitTrace? trace
    )
    {
        var raw = ParameterReader.FromQuery(pairs, control);
        if (raw is { Fault: KeyFault.None, Text: null })
            return null;
        var backwards = control == ParameterReader.Before;
        var isEnd = backwards && raw is { Fault: KeyFault.None, Text: ParameterReader.End };
        var place = raw is { Fault: KeyFault.None, Text: { } text } && !isEnd ? cursors.Read(page.Plan.For(request), text) : null;
        var fault =
            raw.Fault != KeyFault.None ? raw.Fault
            : place is null && !isEnd ? KeyFault.WrongForm
            : KeyFault.None;
        trace?.Add(new TracedParameter(control, raw.Text, KeyReading.Failed(fault)));
        return new WindowRequest(place, backwards, control, fault);
    }
}
