using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>
/// A link, compiled: whose template its address follows and which column fills which parameter. Writes nothing for a row
/// whose values no address can carry, so that a link on a page always leads back to the very record it stands on.
/// </summary>
public sealed class LinkPlan
{
    private readonly AddressBuilder? _builder;
    private readonly LinkFiller?[] _slots;
    private readonly byte[]? _fixed;
    private readonly Func<string, bool>? _leadsThere;

    /// <param name="fillers">In the order of the template's parameters; null for one that is left out.</param>
    /// <param name="leadsThere">Asked for every address built where another page might take some of them; null if none
    /// can.</param>
    public LinkPlan(
        string page,
        string text,
        AddressBuilder builder,
        IEnumerable<LinkFiller?> fillers,
        Func<string, bool>? leadsThere
    )
    {
        Page = page;
        Text = text;
        _builder = builder;
        UriTemplate = builder.UriTemplate;
        _slots = [.. fillers];
        _leadsThere = leadsThere;
        Fillers = [.. _slots.OfType<LinkFiller>()];
        ParameterNames = [.. builder.Template.Parameters.Where((_, i) => _slots[i] is not null)];
    }

    /// <summary>A link that is the same for every row.</summary>
    public LinkPlan(string page, string text, string address)
    {
        Page = page;
        Text = text;
        _fixed = Encoding.ASCII.GetBytes(address);
        _slots = [];
        Fillers = [];
        ParameterNames = [];
    }

    /// <summary>The name of the page it leads to.</summary>
    public string Page { get; }

    /// <summary>What a link of its own says.</summary>
    public string Text { get; }

    /// <summary>The template that its addresses expand (RFC 6570); null for a link that is the same for every row.</summary>
    public string? UriTemplate { get; }

    /// <summary>What fills the parameters, in their order.</summary>
    public IReadOnlyList<LinkFiller> Fillers { get; }

    /// <summary>The names of the parameters that are filled, in the order of <see cref="Fillers"/>.</summary>
    public IReadOnlyList<string> ParameterNames { get; }

    /// <summary>
    /// Whether it leads from a list to one of the records that the list shows: it then says which place of the list it comes
    /// from.
    /// </summary>
    public bool IsOwn { get; init; }

    /// <summary>The link stands only on rows for which this holds; null for all.</summary>
    public Func<Row, bool>? When { get; init; }

    /// <summary>Whether two links of one row always lead to the same address.</summary>
    public bool LeadsWhere(LinkPlan other) => Page == other.Page && When == other.When && _slots.SequenceEqual(other._slots);

    /// <summary>Appends the address of this row's link; false, and nothing appended, where it has none.</summary>
    public bool TryWrite(Row row, Utf8Buffer into)
    {
        if (When?.Invoke(row) == false)
            return false;
        if (_builder is null)
        {
            into.Append(_fixed);
            return true;
        }

        var start = into.Length;
        if (!_builder.TryBuild(new RowTexts(_slots, row), into))
            return false;
        if (_leadsThere is null || _leadsThere(Encoding.ASCII.GetString(into.Written[start..])))
            return true;
        into.Truncate(start);
        return false;
    }

    /// <summary>Whether the row's values are of the storage classes that the link's parameters have.</summary>
    public bool Fits(Row row)
    {
        foreach (var filler in Fillers)
            if (!filler.Key.Holds(row[filler.Ordinal]))
                return false;
        return true;
    }

    /// <summary>Appends the ID text of one of the fillers, as it stands in the address before percent-encoding.</summary>
    public bool TryWriteId(Row row, int filler, Utf8Buffer into) =>
        Fillers[filler].Key.TryWrite(row, Fillers[filler].Ordinal, into);

    private readonly struct RowTexts(LinkFiller?[] slots, Row row) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into) =>
            slots[parameter] is { } filler && filler.Key.TryWrite(row, filler.Ordinal, into);
    }
}
