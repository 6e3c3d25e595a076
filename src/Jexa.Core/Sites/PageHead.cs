using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;

namespace Jexa.Core.Sites;

/// <summary>What other pages need to know of a page before any of them is compiled whole.</summary>
/// <param name="OwnsAddress">
/// Whether an address of this page's template is really matched by this page; null if no other page can take any.
/// </param>
public sealed record PageHead(
    PageDefinition Definition,
    SiteRecord? Kind,
    PathTemplate Template,
    AddressBuilder Builder,
    IReadOnlyList<PageParameter> Parameters,
    Func<string, bool>? OwnsAddress
)
{
    public string Name => Definition.Name.Value;

    /// <summary>What a list or text is called where no record is known: its title, unless that has holes, or its name.</summary>
    public string Heading =>
        Definition.Title is { Value: var title } && !title.AsSpan().ContainsAny('{', '}') ? title : Labels.OfPage(Name);

    /// <summary>What a link to the page says if nothing else is written.</summary>
    public string LinkText =>
        Definition.Kind switch
        {
            PageKind.Detail => Labels.Capital(Record.One),
            PageKind.Edit => "Edit",
            PageKind.Delete => "Delete",
            PageKind.New => Definition.Title?.Value ?? $"New {Record.One}",
            PageKind.List or PageKind.Text => Heading,
            var other => throw new UnreachableException($"No link says what a page of kind {other} is."),
        };

    /// <summary>The record kind of a page that has one.</summary>
    public SiteRecord Record => Kind ?? throw new InvalidOperationException("A text page has no records.");

    /// <summary>The parameter of this name.</summary>
    public PageParameter Find(string name)
    {
        for (var i = 0; i < Parameters.Count; i++)
            if (Parameters[i].Name == name)
                return Parameters[i];
        throw new InvalidOperationException($"The page “{Name}” has no parameter {name}.");
    }

    /// <summary>The page's address where it can be opened by itself; null if it needs a parameter.</summary>
    public string? AddressWithoutParameters => Builder.AddressWithoutParameters;

    /// <summary>Where links to the page lead: to wherever it is drawn.</summary>
    public AddressBuilder LinkBuilder { get; init; } = Builder;

    /// <summary>Where a link without parameters leads; null if it needs one.</summary>
    public string? OpenAddress => LinkBuilder.AddressWithoutParameters;

    /// <summary>The base address below which another program draws the page; null if Jexa does.</summary>
    public string? DrawnAt => Definition.DrawnAt?.Value;

    /// <summary>
    /// What must be asked of an address that a link was built for; nothing if another program decides what it leads to.
    /// </summary>
    public Func<string, bool>? OwnsLink => DrawnAt is null ? OwnsAddress : null;
}
