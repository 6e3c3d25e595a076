using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// A whole app, compiled: immutable, and ready to answer any address. A visit holds the site it began with; a changed app
/// file makes another site.
/// </summary>
/// <param name="Origins">Other origins whose scripts may read pages as JSON, as browsers spell them.</param>
public sealed record Site(
    string File, PageFrame Frame, Page? Home, IReadOnlyList<Page> Pages, PathTree<Page> Paths, IReadOnlySet<string> Origins, IReadOnlyList<Finding> Findings)
{
    public Page? Find(string name) => Pages.FirstOrDefault(page => page.Name == name);
}

/// <summary>A field of a record kind, as schema and app file together describe it.</summary>
/// <param name="Form">The form its texts have, where the app file declares one.</param>
public sealed record SiteField(string Name, string? Label, FieldType Type, ColumnSchema Column, bool Secret, TextForm Form);

/// <summary>A record kind, compiled.</summary>
/// <param name="Label">What one record is called: literals and field names.</param>
/// <param name="Visible">All of these hold for a record that may be seen.</param>
public sealed record SiteRecord(
    string Name, ISource Source, string SourceName, TableSchema Table, IReadOnlyList<SiteField> Fields, IReadOnlyList<SiteField> Key,
    IReadOnlyList<TextHole> Label, IReadOnlyList<Condition> Visible, bool UniqueAssumed, string One, string Many)
{
    public SiteField? Find(string name) => Fields.FirstOrDefault(field => field.Name == name);
}

/// <summary>A parameter of a page's path: where it stands in an address, and which field of the record it stands for.</summary>
/// <param name="Segment">The path segment, from 0; -1 in the query string.</param>
public sealed record PageParameter(string Name, int Segment, string Prefix, string Suffix, SiteField Field, KeyType Key);

/// <summary>A page, compiled. Its addresses are matched, read and built from the same template.</summary>
public abstract class Page(PageHead head)
{
    public string Name => Head.Name;

    public PageHead Head { get; } = head;

    public SiteRecord Record => Head.Record;

    public IReadOnlyList<PageParameter> Parameters => Head.Parameters;

    /// <summary>The page's kind in the app file's words.</summary>
    public abstract string Kind { get; }

    /// <summary>Every link that stands on the page.</summary>
    public abstract IReadOnlyList<PageLink> Links { get; }
}

/// <summary>Why a link stands on a page.</summary>
public enum LinkReason
{
    /// <summary>The app file writes it.</summary>
    Written,

    /// <summary>A list leads to its records' page of itself.</summary>
    Record,

    /// <summary>A foreign key leads to the record it refers to.</summary>
    Reference,

    /// <summary>A record's page leads back to its list.</summary>
    Back,
}

/// <summary>A link as it stands on a page.</summary>
/// <param name="Column">The shown field it stands on; null for one of its own.</param>
public sealed record PageLink(LinkPlan Plan, string? Column, LinkReason Reason);

/// <summary>What other pages need to know of a page before any of them is compiled whole.</summary>
/// <param name="LeadsThere">
/// Whether an address of this page's template is really matched by this page; null where no other page can take any.
/// </param>
public sealed record PageHead(
    PageDefinition Definition, SiteRecord Record, PathTemplate Template, AddressBuilder Builder, IReadOnlyList<PageParameter> Parameters,
    Func<string, bool>? LeadsThere)
{
    public string Name => Definition.Name.Value;
}

/// <summary>A path that a page had before: its addresses lead to where the page is now.</summary>
/// <param name="head">The page's head under its former path.</param>
public sealed class FormerPage(PageHead head, Page now) : Page(head)
{
    public override string Kind => "former";

    public override IReadOnlyList<PageLink> Links => [];

    /// <summary>The page as it is now.</summary>
    public Page Now { get; } = now;
}

/// <summary>Shows the records of a kind, a window at a time.</summary>
public sealed class ListPage(PageHead head, ListShape shape, ListWindows windows, IPreparedQuery count, int countLimit, IReadOnlyList<PageLink> links)
    : Page(head)
{
    /// <summary>Rows in one window.</summary>
    public const int WindowSize = 50;

    public override string Kind => "list";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public ListShape Shape { get; } = shape;

    public ListWindows Windows { get; } = windows;

    public IPreparedQuery Count { get; } = count;

    /// <summary>Counting stops here.</summary>
    public int CountLimit { get; } = countLimit;
}

/// <summary>Shows one record, by the ID in its address.</summary>
/// <param name="load">At most two rows by key; each ends with whether it is visible where the record has conditions for that.</param>
/// <param name="keyOrdinals">Where the fields that the parameters stand for are in a row, in the order of the parameters.</param>
/// <param name="flagOrdinal">Where a row says whether it is visible; -1 where every row is.</param>
/// <param name="samples">The parameters' fields of some visible records, for <see cref="Visits.Samples"/>.</param>
/// <param name="list">The list of the same records that can be opened by itself, if there is one.</param>
/// <param name="missingPage">The page a person is led to when the ID is missing; null for none.</param>
public sealed class DetailPage(
    PageHead head, DetailShape shape, IPreparedQuery load, IReadOnlyList<int> keyOrdinals, int flagOrdinal, IPreparedQuery samples,
    IReadOnlyList<PageLink> links, PageHead? list, PageHead? missingPage)
    : Page(head)
{
    public override string Kind => "detail";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public DetailShape Shape { get; } = shape;

    public IPreparedQuery Load { get; } = load;

    public IReadOnlyList<int> KeyOrdinals { get; } = keyOrdinals;

    public int FlagOrdinal { get; } = flagOrdinal;

    public IPreparedQuery Samples { get; } = samples;

    public PageHead? List { get; } = list;

    public PageHead? MissingPage { get; } = missingPage;

    public IdAnswers Ids => Head.Definition.Ids;
}
