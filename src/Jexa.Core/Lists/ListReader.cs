using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>Reads parameters and controls of a list from an address, or from the <c>from</c> of a link.</summary>
internal static class ListReader
{
    private const int MaxFind = 200;

    /// <param name="rawOf">Reads the text of a path parameter. Query parameters are read from the pairs.</param>
    public static (ListAsk? Ask, ListFault? Fault) Read(
        ListPage page,
        IReadOnlyList<QueryPair> pairs,
        Func<PageParameter, RawParameter> rawOf,
        ListCursor cursors,
        VisitTrace? trace
    )
    {
        ListFault? fault = null;
        var canonical = true;
        var count = page.Parameters.Count;
        var values = count == 0 ? [] : new IReadOnlyList<TypedValue>[count];
        var texts = count == 0 ? [] : new IReadOnlyList<string>[count];
        for (var i = 0; i < count; i++)
        {
            var (read, failed, isCanonical) = ReadParameter(page.Parameters[i], pairs, rawOf, trace);
            fault ??= failed;
            values[i] = read;
            texts[i] = [.. read.Select(page.Parameters[i].Key.Write)];
            canonical &= isCanonical;
        }

        fault ??= MonthAlone(page, values);
        var find = Control(ParameterReader.Find, pairs, trace, text => CheckFind(page, text), ref fault, ref canonical);
        var order = ReadOrder(page, pairs, trace, ref fault, ref canonical);
        var size = ReadSize(page, pairs, trace, ref fault, ref canonical);
        if (fault is not null)
            return (null, fault);
        if (count > 0 && page.Head.Builder.Build(texts) is null)
            return (null, new ListFault(page.Parameters[0].Name, texts[0] is [var text, ..] ? text : null, KeyFault.WrongForm));

        var words = find is null ? [] : WordsOf(find);
        if (find is not null)
            canonical &= find == string.Join(' ', words) && words.Count > 0;
        var request = new ListRequest(count == 0 ? ParameterValues.None : new ParameterValues(values), words, order, size);
        var window = WindowReader.Read(page, request, pairs, cursors, trace);
        return window.Fault != KeyFault.None
            ? (null, new ListFault(window.Control, null, window.Fault))
            : (
                new ListAsk(page, request, texts, words.Count == 0 ? null : string.Join(' ', words), window, canonical)
                {
                    WindowText = window == WindowRequest.Start ? null : ParameterReader.FromQuery(pairs, window.Control).Text,
                },
                null
            );
    }

    /// <summary>The order that the visitor chose; null for the list's own, which is not written into addresses.</summary>
    private static OrderStep? ReadOrder(
        ListPage page,
        IReadOnlyList<QueryPair> pairs,
        VisitTrace? trace,
        ref ListFault? fault,
        ref bool canonical
    )
    {
        OrderStep? order = null;
        Control(
            ParameterReader.Order,
            pairs,
            trace,
            text => (order = OrderOf(page, text)) is null ? KeyFault.WrongForm : KeyFault.None,
            ref fault,
            ref canonical
        );
        if (order is not { } step || page.Plan.OwnOrder is not [var only] || only != step)
            return order;
        canonical = false;
        return null;
    }

    /// <summary>The records in one window. The list's own number is not written into addresses.</summary>
    private static int ReadSize(
        ListPage page,
        IReadOnlyList<QueryPair> pairs,
        VisitTrace? trace,
        ref ListFault? fault,
        ref bool canonical
    )
    {
        var size = page.Size;
        var given = Control(
            ParameterReader.Size,
            pairs,
            trace,
            text => TrySize(page, text, out size) ? KeyFault.None : KeyFault.WrongForm,
            ref fault,
            ref canonical
        );
        canonical &= given is null || size != page.Size;
        return size;
    }

    private static (IReadOnlyList<TypedValue> Values, ListFault? Fault, bool IsCanonical) ReadParameter(
        PageParameter parameter,
        IReadOnlyList<QueryPair> pairs,
        Func<PageParameter, RawParameter> rawOf,
        VisitTrace? trace
    )
    {
        if (parameter.Many)
            return ReadMany(parameter, pairs, trace);
        var raw = parameter.Segment < 0 ? ParameterReader.FromQuery(pairs, parameter.Name) : rawOf(parameter);
        var reading = ParameterReader.Value(raw, parameter.Key);
        if (raw.Text is not null || raw.Fault != KeyFault.None || parameter.Required)
            trace?.Add(new TracedParameter(parameter.Name, raw.Text, reading));
        if (reading.Fault != KeyFault.None)
            return ([], new ListFault(parameter.Name, raw.Text, reading.Fault), true);
        if (reading.Value is { } value)
            return ([value], null, reading.IsCanonical);

        // An optional filter that is empty, as forms send it, is removed from the address.
        return parameter.Required
            ? ([], new ListFault(parameter.Name, null, KeyFault.None, IsMissing: true), true)
            : ([], null, raw.Text is null);
    }

    private static (IReadOnlyList<TypedValue> Values, ListFault? Fault, bool IsCanonical) ReadMany(
        PageParameter parameter,
        IReadOnlyList<QueryPair> pairs,
        VisitTrace? trace
    )
    {
        var many = ParameterReader.Many(pairs, parameter, trace);
        return many.Fault != KeyFault.None ? ([], new ListFault(parameter.Name, many.Raw, many.Fault), true)
            : many.Values.Count == 0 && parameter.Required
                ? ([], new ListFault(parameter.Name, null, KeyFault.None, IsMissing: true), true)
            : (many.Values, null, many.IsCanonical);
    }

    /// <summary>A month without its year is a fault.</summary>
    private static ListFault? MonthAlone(ListPage page, IReadOnlyList<IReadOnlyList<TypedValue>> values)
    {
        var month = ParameterReader.MonthAlone(page, number => values[number].Count > 0);
        return month < 0
            ? null
            : new ListFault(
                page.Parameters[month].Name,
                page.Parameters[month].Key.Write(values[month][0]),
                KeyFault.MonthWithoutYear
            );
    }

    /// <summary>The text of a control; null if it is absent, or empty, as forms send it.</summary>
    private static string? Control(
        string name,
        IReadOnlyList<QueryPair> pairs,
        VisitTrace? trace,
        Func<string, KeyFault> check,
        ref ListFault? fault,
        ref bool canonical
    )
    {
        var raw = ParameterReader.FromQuery(pairs, name);
        if (raw is { Fault: KeyFault.None, Text: null })
            return null;
        var failed =
            raw.Fault != KeyFault.None ? raw.Fault
            : raw.Text!.Length == 0 ? KeyFault.None
            : check(raw.Text);
        trace?.Add(new TracedParameter(name, raw.Text, KeyReading.Failed(failed)));
        if (failed != KeyFault.None)
            fault ??= new ListFault(name, raw.Text, failed);
        canonical &= raw.Text is not { Length: 0 };
        return raw.Text is { Length: > 0 } ? raw.Text : null;
    }

    private static KeyFault CheckFind(ListPage page, string text) =>
        !page.Plan.CanSearch ? KeyFault.WrongForm
        : text.Contains('\0') ? KeyFault.BadEncoding
        : text.Length > MaxFind || WordsOf(text).Count > ListPlan.MaxWords ? KeyFault.TooLong
        : KeyFault.None;

    /// <summary>The words of a search text.</summary>
    public static List<string> WordsOf(string find) =>
        [.. find.Split(default(char[]), StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];

    private static OrderStep? OrderOf(ListPage page, string text)
    {
        var descending = text.StartsWith('-');
        var name = descending ? text[1..] : text;
        if (page.Shape.Columns.All(column => column.OrderName != name))
            return null;
        for (var i = 0; i < page.Plan.Orders.Count; i++)
            if (page.Plan.Orders[i].Name == name)
                return new OrderStep(i, descending);
        return null;
    }

    private static bool TrySize(ListPage page, string text, out int size)
    {
        var fits =
            int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out size)
            && page.Sizes.Contains(size)
            && text == size.ToString(CultureInfo.InvariantCulture);
        if (!fits)
            size = page.Size;
        return fits;
    }
}
