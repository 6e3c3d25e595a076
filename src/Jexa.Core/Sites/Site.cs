using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
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
/// <param name="NotFound">The app's own words for addresses that no page has; null for Jexa's.</param>
/// <param name="Media">The records' fields that name pictures in folders, or hold bytes.</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON, as browsers spell them.</param>
public sealed record Site(
    string File,
    PageFrame Frame,
    Page? Home,
    TextPage? NotFound,
    IReadOnlyList<Page> Pages,
    PathTree<Page> Paths,
    IReadOnlyList<MediaLookup> Media,
    IReadOnlySet<string> Origins,
    IReadOnlyList<Finding> Findings
)
{
    /// <summary>How the records that some page changes are changed, by their names.</summary>
    public IReadOnlyDictionary<string, ChangePlan> Changes { get; init; } = new Dictionary<string, ChangePlan>();

    /// <summary>The sources behind it, as they were found.</summary>
    public IReadOnlyList<SiteSource> Sources { get; init; } = [];

    /// <summary>
    /// Pages of the app file that cannot be served before their source has said what it holds: they are no part of
    /// <see cref="Pages"/>, but of <see cref="Paths"/>.
    /// </summary>
    public IReadOnlyList<string> Waiting { get; init; } = [];

    /// <summary>Those of the other origins whose scripts may change records by JSON.</summary>
    public IReadOnlySet<string> Writers { get; init; } = new HashSet<string>();

    /// <summary>The paths that pages had before.</summary>
    public IReadOnlyList<FormerPage> Former { get; init; } = [];

    /// <summary>Pages that links lead to and that the app file does not have yet, by their names.</summary>
    public IReadOnlyDictionary<string, UnwrittenPage> Unwritten { get; init; } = new Dictionary<string, UnwrittenPage>();

    public Page? Find(string name) => Pages.FirstOrDefault(page => page.Name == name);
}

/// <summary>A field of a record kind, as schema and app file together describe it.</summary>
/// <param name="Form">The form its texts have, where the app file declares one.</param>
/// <param name="Style">How its values are shown.</param>
/// <param name="When">The field is shown only where these hold for its record.</param>
public sealed record SiteField(
    string Name,
    string? Label,
    FieldType Type,
    ColumnSchema Column,
    bool Secret,
    TextForm Form,
    ValueStyle Style,
    IReadOnlyList<Condition> When
);

/// <summary>A named parameter of a record's own query.</summary>
/// <param name="Default">What fills it where no page does; null where a page must.</param>
public sealed record QueryParameter(string Name, FieldType Type, Constant? Default);

/// <summary>A record kind, compiled.</summary>
/// <param name="Query">The developer's own query; null where the records come from the table.</param>
/// <param name="References">Its foreign keys: the source's and those that the app file declares.</param>
/// <param name="Parent">The foreign key that leads to the record it belongs to.</param>
/// <param name="Label">What one record is called: literals and field names.</param>
/// <param name="Visible">All of these hold for a record that may be seen.</param>
public sealed record SiteRecord(
    string Name,
    ISource Source,
    string SourceName,
    TableSchema Table,
    string? Query,
    IReadOnlyList<QueryParameter> QueryParameters,
    IReadOnlyList<SiteField> Fields,
    IReadOnlyList<SiteField> Key,
    IReadOnlyList<ForeignKeySchema> References,
    ForeignKeySchema? Parent,
    IReadOnlyList<TextHole> Label,
    IReadOnlyList<Condition> Visible,
    bool UniqueAssumed,
    string One,
    string Many
)
{
    /// <summary>
    /// The columns whose values count as empty if the record that a foreign key leads to may not be seen, each with that foreign
    /// key.
    /// Filled once all record kinds are known.
    /// </summary>
    internal Dictionary<string, FieldStep> WithheldBy { get; init; } = [];

    /// <summary>The fields of other records that the label has holes for. Filled once all record kinds are known.</summary>
    internal Dictionary<string, FieldPath> LabelPaths { get; init; } = [];

    public SiteField? Find(string name) => Fields.FirstOrDefault(field => field.Name == name);

    /// <summary>The rows that a visitor may see, its query's parameters filled by their defaults.</summary>
    internal RecordRows Seen => RecordRows.Seen(Rows, Visible);

    /// <summary>The rows that a visitor may see.</summary>
    /// <param name="valueOf">What a page fills a parameter of the record's query with; null for its default.</param>
    internal RecordRows SeenOf(Func<string, Operand?> valueOf) => RecordRows.Seen(RowsOf(valueOf), Visible);

    /// <summary>
    /// Whether at most one record has given values in these columns, as far as the source or the developer vouches for it.
    /// </summary>
    public bool IsUnique(IReadOnlyCollection<string> columns) =>
        Table.IsUnique(columns) || (UniqueAssumed && Key.All(field => columns.Contains(field.Column.Name)));

    /// <summary>What its rows are read from, its query's parameters filled by their defaults.</summary>
    public RowOrigin Rows => RowsOf(_ => null);

    /// <param name="valueOf">What a page fills a parameter with; null for its default.</param>
    public RowOrigin RowsOf(Func<string, Operand?> valueOf) =>
        Query is null
            ? RowOrigin.Of(Table.Name)
            : new RowOrigin(
                Name,
                Query,
                [
                    .. QueryParameters.Select(p =>
                        (p.Name, valueOf(p.Name) ?? new Operand.Written(p.Default ?? Constant.Empty.Value))
                    ),
                ]
            );
}

/// <summary>A parameter of a page's path: where it stands in an address, and which field of the record it stands for.</summary>
/// <param name="Segment">The path segment, from 0; -1 in the query string.</param>
/// <param name="Field">The field it is compared with.</param>
/// <param name="Key">How its text is read.</param>
/// <param name="Required">Without it the page is not meant.</param>
/// <param name="Many">It may be given several times.</param>
/// <param name="Path">How the field is reached; null where it is the record's own, or no field at all.</param>
/// <param name="IsEqual">The record's field must equal it: a link can fill it from such a field.</param>
public sealed record PageParameter(
    string Name,
    int Segment,
    string Prefix,
    string Suffix,
    SiteField Field,
    KeyType Key,
    bool Required = true,
    bool Many = false,
    FieldPath? Path = null,
    bool IsEqual = true
);

/// <summary>A page, compiled. Its addresses are matched, read and built from the same template.</summary>
public abstract class Page(PageHead head)
{
    public string Name => Head.Name;

    public PageHead Head { get; } = head;

    /// <summary>The record kind it shows; null on a text page.</summary>
    public SiteRecord? Record => Head.Kind;

    public IReadOnlyList<PageParameter> Parameters => Head.Parameters;

    /// <summary>The page's kind in the app file's words.</summary>
    public abstract string Kind { get; }

    /// <summary>What a page that only shows something takes.</summary>
    public const string Reading = "GET, HEAD";

    public const string JsonType = "application/json";

    public const string PatchType = "application/merge-patch+json";

    public const string FormType = "application/x-www-form-urlencoded";

    /// <summary>The methods that the page takes (RFC 9110 section 10.2.1).</summary>
    public virtual string Methods => Reading;

    /// <summary>Whether the page takes a method: each takes what only reads.</summary>
    public bool Allows(string method) => method is "GET" or "HEAD" || Methods.Split(", ").Contains(method);

    /// <summary>Whether a method takes a body of JSON, or of a form.</summary>
    public virtual bool Takes(string method, bool isJson) => false;

    /// <summary>The media types that a method takes.</summary>
    public string Accepts(string method) =>
        string.Join(
            ", ",
            new[]
            {
                Takes(method, false) ? FormType : null,
                Takes(method, true)
                    ? method == "PATCH"
                        ? $"{PatchType}, {JsonType}"
                        : JsonType
                    : null,
            }.OfType<string>()
        );

    /// <summary>Every link that stands on the page.</summary>
    public abstract IReadOnlyList<PageLink> Links { get; }

    /// <summary>Whether it shows pictures whose place the app file does not say.</summary>
    public virtual bool LacksPictures => false;

    /// <summary>Where addresses to try it with come from; null where there is nothing to take them from.</summary>
    public SamplePlan? Samples { get; init; }
}

/// <summary>Reads what fills the parameters of a page from some visible records.</summary>
/// <param name="Ordinals">Where each parameter's value stands in a row; -1 for one that is left out.</param>
public sealed record SamplePlan(IPreparedQuery Query, IReadOnlyList<int> Ordinals)
{
    /// <summary>The samples for a page; null where a parameter it needs stands for no field.</summary>
    internal static SamplePlan? Of(PageHead head, IEnumerable<Condition> where, Projections load)
    {
        if (
            head.Parameters.Any(parameter =>
                parameter.Required && head.Record.Find(parameter.Field.Name) is null && parameter.Path is null
            )
        )
            return null;
        var ordinals = head
            .Parameters.Select(parameter => parameter.Required ? load.Add(parameter.Path ?? FieldPath.Own(parameter.Field)) : -1)
            .ToList();
        var filled = ordinals
            .Where(ordinal => ordinal >= 0)
            .Select(ordinal => (Condition)new Condition.IsFilled(load.Columns[ordinal].Column));
        var query = new RecordQuery(
            head.Record.Seen,
            load.Joins,
            load.Columns,
            [.. where, .. filled],
            null,
            ByKey(head.Record),
            Visits.Samples.MostRows
        );
        return new SamplePlan(head.Record.Source.Prepare(query), ordinals);
    }

    /// <summary>In the order of the key: which rows come first must not hang on rows that may not be seen.</summary>
    internal static List<Ordering> ByKey(SiteRecord record) =>
        record.Query is null
            ? [.. record.Key.Select(field => new Ordering.ByColumn(ColumnRef.Own(field.Column.Name), false, null))]
            : [];
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

    /// <summary>A side list, a related block, or the trail of records above.</summary>
    Part,
}

/// <summary>A link as it stands on a page.</summary>
/// <param name="Column">The shown field it stands on; null for one of its own.</param>
public sealed record PageLink(LinkPlan Plan, string? Column, LinkReason Reason);

/// <summary>What other pages need to know of a page before any of them is compiled whole.</summary>
/// <param name="LeadsThere">
/// Whether an address of this page's template is really matched by this page; null where no other page can take any.
/// </param>
public sealed record PageHead(
    PageDefinition Definition,
    SiteRecord? Kind,
    PathTemplate Template,
    AddressBuilder Builder,
    IReadOnlyList<PageParameter> Parameters,
    Func<string, bool>? LeadsThere
)
{
    public string Name => Definition.Name.Value;

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

    /// <summary>The page's address where it can be opened by itself; null where it needs a parameter.</summary>
    public string? Alone => Builder.Alone;

    /// <summary>Where links to the page lead: to wherever it is drawn.</summary>
    public AddressBuilder Leads { get; init; } = Builder;

    /// <summary>Where a link without parameters leads; null where it needs one.</summary>
    public string? Open => Leads.Alone;

    /// <summary>The base address below which another program draws the page; null where Jexa does.</summary>
    public string? DrawnAt => Definition.DrawnAt?.Value;

    /// <summary>
    /// What must be asked of an address that a link was built for; nothing where another program decides what it leads to.
    /// </summary>
    public Func<string, bool>? LinkLeadsThere => DrawnAt is null ? LeadsThere : null;
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

/// <summary>A page whose source has not answered since the service began: nothing is known of it but its path.</summary>
/// <param name="source">The source that it waits for.</param>
public sealed class WaitingPage(PageHead head, string source) : Page(head)
{
    public override string Kind => "waiting";

    public override IReadOnlyList<PageLink> Links => [];

    public string Source { get; } = source;
}
