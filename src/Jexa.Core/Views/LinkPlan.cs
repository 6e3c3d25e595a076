using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>
/// A compiled link: the template of its address, and the column for each parameter. It writes nothing for a row whose values no
/// address can contain. So a link on a page always leads to the right record.
/// </summary>
public sealed class LinkPlan
{
    private readonly AddressBuilder? _builder;
    private readonly LinkFiller?[] _slots;
    private readonly byte[]? _fixed;
    private readonly Func<string, bool>? _leadsThere;

    /// <param name="fillers">In the order of the template's parameters; null for a parameter that is left out.</param>
    /// <param name="leadsThere">Checks each address if another page could match it too; null if none can.</param>
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

    /// <summary>The name of the target page.</summary>
    public string Page { get; }

    /// <summary>The text of a link of its own.</summary>
    public string Text { get; }

    /// <summary>A URI template for its addresses (RFC 6570); null for a link that is the same for every row.</summary>
    public string? UriTemplate { get; }

    /// <summary>The values of the parameters, in their order.</summary>
    public IReadOnlyList<LinkFiller> Fillers { get; }

    /// <summary>The names of the parameters with values, in the order of <see cref="Fillers"/>.</summary>
    public IReadOnlyList<string> ParameterNames { get; }

    /// <summary>
    /// Whether it leads from a list to one of its records. Its address then says which place of the list it comes from.
    /// </summary>
    public bool IsOwn { get; init; }

    /// <summary>Whether it leads to a page that takes the record away.</summary>
    public bool IsGrave { get; init; }

    /// <summary>Whether a row has the link; null for always.</summary>
    public Func<Row, bool>? When { get; init; }

    /// <summary>Whether two links always lead to the same address in each row.</summary>
    public bool LeadsWhere(LinkPlan other) => Page == other.Page && When == other.When && _slots.SequenceEqual(other._slots);

    /// <summary>Appends the address of this row's link. False, and nothing appended, if the row has no link.</summary>
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

    /// <summary>Whether the row has an address that another page takes, and so no link.</summary>
    /// <param name="scratch">Is emptied.</param>
    public bool IsTaken(Row row, Utf8Buffer scratch)
    {
        scratch.Truncate(0);
        return _builder?.TryBuild(new RowTexts(_slots, row), scratch) == true
            && _leadsThere?.Invoke(Encoding.ASCII.GetString(scratch.Written)) == false;
    }

    /// <summary>Whether the row's values have the storage classes of the link's parameters.</summary>
    public bool Fits(Row row)
    {
        foreach (var filler in Fillers)
            if (!filler.Key.Holds(row[filler.Ordinal]))
                return false;
        return true;
    }

    /// <summary>Appends the ID text of one parameter, before percent-encoding.</summary>
    public bool TryWriteId(Row row, int filler, Utf8Buffer into) =>
        Fillers[filler].Key.TryWrite(row, Fillers[filler].Ordinal, into);

    private readonly struct RowTexts(LinkFiller?[] slots, Row row) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into) =>
            slots[parameter] is { } filler && filler.Key.TryWrite(row, filler.Ordinal, into);
    }
}
