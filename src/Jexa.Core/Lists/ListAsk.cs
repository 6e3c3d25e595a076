using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>What an address asks of a list.</summary>
/// <param name="Texts">The canonical texts of each parameter. An address can contain all of them.</param>
/// <param name="Find">The words to search for, as they are written back; null for none.</param>
internal sealed record ListAsk(
    ListPage Page,
    ListRequest Request,
    IReadOnlyList<IReadOnlyList<string>> Texts,
    string? Find,
    WindowRequest Window,
    bool IsCanonical
)
{
    private ListQuery? _query;

    /// <summary>The list as it is asked for.</summary>
    public ListQuery Query => _query ??= Page.Plan.For(Request);

    /// <summary>The value of the window's control; null for the beginning of the list.</summary>
    public string? WindowText { get; init; }

    /// <summary>The address of the window.</summary>
    public string WindowAddress =>
        WindowText is null
            ? Address()
            : AddressQuery.With(Address(), Window.Backwards ? ParameterReader.Before : ParameterReader.After, WindowText);

    /// <summary>Whether it asks only for a window of the list.</summary>
    public bool IsUnasked =>
        Request.Words.Count == 0 && Request.Order is null && Request.Size == Page.Size && Texts.All(texts => texts.Count == 0);

    /// <summary>Whether it asks only for the list itself.</summary>
    public bool IsPlain => IsUnasked && Window == WindowRequest.Start;

    /// <summary>The requested order, as an address says it; empty for the list's own.</summary>
    public string Order => Request.Order is not { } step ? "" : (step.Descending ? "-" : "") + Page.Plan.Orders[step.Choice].Name;

    /// <summary>The list's address with everything it asks for except the window.</summary>
    public string Address() => Address(Texts, Order);

    /// <summary>The same with other parameters or another order.</summary>
    public string Address(IReadOnlyList<IReadOnlyList<string>> texts, string order, bool alsoSearch = true)
    {
        var address = Page.Head.Builder.Build(texts)!;
        if (alsoSearch && Find is not null)
            address = AddressQuery.With(address, ParameterReader.Find, Find);
        if (order.Length > 0)
            address = AddressQuery.With(address, ParameterReader.Order, order);
        return Request.Size == Page.Size
            ? address
            : AddressQuery.With(address, ParameterReader.Size, Request.Size.ToString(CultureInfo.InvariantCulture));
    }
}
