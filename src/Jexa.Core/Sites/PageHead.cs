using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;

namespace Jexa.Core.Sites;

/// <summary>The part of a page that other pages need before any page is compiled completely.</summary>
/// <param name="OwnsAddress">
/// Whether an address of this page's template really matches this page; null if no other page can match it.
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
    /// <summary>The page's name in the app file.</summary>
    public string Name => Definition.Name.Value;

    /// <summary>The heading of a list or text page without parameters: its title, unless that has holes, or its name.</summary>
    public string Heading =>
        Definition.Title is { Value: var title } && !title.AsSpan().ContainsAny('{', '}') ? title : Labels.OfPage(Name);

    /// <summary>The text of a link to the page, if none is written.</summary>
    public string LinkText =>
        Definition.Kind.LinkText is not { } text ? Heading
        : Definition.Kind == PageKind.New && Definition.Title is { } own ? own.Value
        : Labels.Capital(PageKind.Say(text, Record.One, Record.Many));

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

    /// <summary>The page's address without parameters; null if one is required.</summary>
    public string? AddressWithoutParameters => Builder.AddressWithoutParameters;

    /// <summary>Builds the addresses in links to the page, at the program that draws it.</summary>
    public AddressBuilder LinkBuilder { get; init; } = Builder;

    /// <summary>The address of a link without parameters; null if one is required.</summary>
    public string? OpenAddress => LinkBuilder.AddressWithoutParameters;

    /// <summary>The base address below which another program draws the page; null if Jexa does.</summary>
    public string? DrawnAt => Definition.DrawnAt?.Value;

    /// <summary>The checks that a built link must pass; null if there are none, or another program draws the page.</summary>
    public Func<string, bool>? OwnsLink => DrawnAt is null ? OwnsAddress : null;
}
