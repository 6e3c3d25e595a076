using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles links. Checks that each link passes exactly the parameters of its page, by their names and types. Fills in what is
/// left out if only one field fits.
/// </summary>
internal sealed class LinkCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    RecordGraph graph,
    Conventions conventions,
    string mount,
    FindingList findings
)
{
    private readonly FieldMeaning _meaning = new(graph, findings);

    private readonly StubCompiler _stubs = new(pages.Keys, graph, mount, findings);

    private readonly ILookup<SiteRecord?, PageHead> _byRecord = pages.Values.OfType<PageHead>().ToLookup(page => page.Kind);

    /// <summary>The pages of a record kind, in the order of the app file.</summary>
    public IEnumerable<PageHead> PagesOf(SiteRecord record) => _byRecord[record];

    /// <summary>Pages that links lead to and that are not written yet, by name.</summary>
    public IReadOnlyDictionary<string, UnwrittenPage> UnwrittenPages => _stubs.Unwritten;

    /// <summary>The paths of pages whose table is not there yet, by name.</summary>
    public IReadOnlyDictionary<string, PathTemplate> Designed { get; init; } = new Dictionary<string, PathTemplate>();

    /// <summary>The link; null if it cannot be made, which is reported.</summary>
    public LinkPlan? Compile(LinkDefinition link, Projections load)
    {
        if (!pages.TryGetValue(link.To.Value, out var target))
            return Nearest.To(link.To.Value, pages.Keys) is null ? _stubs.Compile(link, load, When(link, load)) : Unknown(link);
        if (target is null)
            return Designed.TryGetValue(link.To.Value, out var template)
                ? _stubs.Compile(link, load, template, When(link, load))
                : null;

        var text = link.Text?.Value ?? target.LinkText;
        CheckNames(link, target);
        var fillers = new List<LinkFiller?>();
        foreach (var parameter in target.Parameters)
        {
            var pass = Explicit(link, parameter.Name);
            if (pass is null && !parameter.Required)
                fillers.Add(Parent(parameter, target, load));
            else if (Filler(link, pass, parameter, target, load) is { } filler)
                fillers.Add(filler);
        }

        if (fillers.Count < target.Parameters.Count)
            return null;
        var when = When(link, load);
        if (fillers.TrueForAll(filler => filler is null) && target.OpenAddress is { } address)
            return new LinkPlan(target.Name, text, address) { When = when };
        return new LinkPlan(target.Name, text, target.LinkBuilder, fillers, target.OwnsLink)
        {
            When = when,
            IsGrave = target.Definition.Kind == PageKind.Delete,
            IsOwn =
                target.Kind == load.Record
                && target.Definition.Kind == PageKind.Detail
                && fillers
                    .Zip(target.Parameters)
                    .All(pair => pair.First?.Ordinal == load.Find(pair.Second.Path ?? FieldPath.Own(pair.Second.Field))),
        };
    }

    /// <summary>
    /// What fills an optional parameter that the link does not name. A new record belongs to the record that the link is on, if
    /// only one parameter fits.
    /// </summary>
    private static LinkFiller? Parent(PageParameter parameter, PageHead target, Projections load)
    {
        if (
            target.Definition.Kind != PageKind.New
            || target.Kind == load.Record
            || Ways(parameter, target.Kind!, load.Record).Distinct().ToList() is not [var way]
        )
            return null;
        var parent = load.Record.Fields.First(one => one.Column.Name == way);
        return KeyType.For(parent.Column, parent.Type, parent.Form)?.Type == parameter.Key.Type
            ? new LinkFiller(parameter.Key, load.Add(parent), parent.Name)
            : null;
    }

    /// <summary>What fills a parameter that must be filled. Null, and reported, if nothing does.</summary>
    private LinkFiller? Filler(
        LinkDefinition link,
        PassDefinition? pass,
        PageParameter parameter,
        PageHead target,
        Projections load
    )
    {
        var field = pass is not null
            ? Stated(pass, parameter, target, load.Record)
            : Implied(link, parameter, target, load.Record);
        if (field is null)
            return null;
        // Some sources allow empty primary keys (SQLite does for text keys); nobody looks for such rows. A column that
        // repeats a parameter of the query is as full as the parameter.
        if (
            field.MayBeEmpty
            && !(field.IsOwn && load.Record.Table.PrimaryKey.Contains(field.Field.Column.Name))
            && load.Record.QueryParameters.All(own => own.Name != field.Name)
        )
            findings.Add(
                FindingCodes.LinkMayBeEmpty,
                pass?.Field.At ?? link.To.At,
                $"The link to “{target.Name}” fills {parameter.Name} from {field.Name}, which may be empty: such "
                    + "rows have no link.",
                "Declare the column NOT NULL in the source, or fill the parameter from another field.",
                found: field.Name,
                expected: "a field that is never empty"
            );
        return new LinkFiller(parameter.Key, load.Add(field), field.Name);
    }

    private Func<Row, bool>? When(LinkDefinition link, Projections load) =>
        link.When.Count == 0
            ? null
            : new RowTest(FilterCompiler.Static(link.When, load.Record.Fields, conventions, onLoaded: true, findings), column =>
                load.Add(load.Record.Fields.First(field => field.Column.Name == column.Name))
            ).Holds;

    /// <summary>
    /// Reports mistakes in a link whose own page could not be compiled: whether its target exists and has the parameters that it
    /// passes.
    /// </summary>
    public void Check(LinkDefinition link)
    {
        if (!pages.TryGetValue(link.To.Value, out var target))
        {
            if (Nearest.To(link.To.Value, pages.Keys) is null)
                _stubs.Report(link, []);
            else
                _ = Unknown(link);
        }
        else if (target is not null)
            CheckNames(link, target);
    }

    /// <summary>The link from a row to its record's own page.</summary>
    public static LinkPlan ToOwn(PageHead page, Projections load, string text) =>
        new(
            page.Name,
            text,
            page.LinkBuilder,
            page.Parameters.Select(p =>
                (LinkFiller?)new LinkFiller(p.Key, load.Add(p.Path ?? FieldPath.Own(p.Field)), p.Path?.Name ?? p.Field.Name)
            ),
            page.OwnsLink
        )
        {
            IsOwn = true,
        };

    /// <summary>The page of a record by its key; null for none.</summary>
    public PageHead? PageOf(SiteRecord record)
    {
        var details = PagesOf(record).Where(page => page.Definition.Kind == PageKind.Detail).ToList();
        return details.Find(page =>
            page.Parameters.All(parameter => parameter.Path is null && record.Key.Contains(parameter.Field))
        ) ?? details.FirstOrDefault();
    }

    /// <summary>
    /// How a foreign key shows the record that it refers to; null for a field that is not one, or refers to no record kind. A
    /// foreign key of several fields is shown on the last one that is not itself a foreign key.
    /// </summary>
    /// <param name="table">The table that has the field.</param>
    public ReferencePlan? Reference(SiteRecord of, SiteField field, int table, Projections load)
    {
        var steps = graph.Steps(of).ToList();
        var step = steps.Find(step => step.Key.Columns is [var only] && only == field.Column.Name)
            ?? steps.Find(step =>
                step.Key.Columns.Count > 1 && step.Key.Columns.LastOrDefault(column => !IsKeyAlone(column)) == field.Column.Name
            );
        if (step is null)
            return null;
        var joined = load.Join(table, step);
        return new ReferencePlan(
            load.Label(step.Other, joined),
            Presence(step, joined, load),
            To(step.Other, joined, load, field)
        );

        bool IsKeyAlone(string column) => steps.Exists(one => one.Key.Columns is [var only] && only == column);
    }

    /// <summary>A column of a joined record that is filled exactly if the record exists and may be seen.</summary>
    public static int Presence(FieldStep step, int joined, Projections load)
    {
        var seen = step.Other.Fields.First(f => f.Column.Name == step.Key.References[0]);
        return load.Add(new Plans.ColumnRef(joined, seen.Column.Name), seen.Type);
    }

    /// <summary>The link to a joined record's page; null for none.</summary>
    /// <param name="by">The foreign key field, if it is one.</param>
    public LinkPlan? To(SiteRecord other, int joined, Projections load, SiteField? by = null)
    {
        if (
            PageOf(other) is not { } page
            || page.Parameters.Any(p => p.Path is { } path && path.Steps.Any(step => graph.Other(other, step.Key) is null))
        )
            return null;
        return new LinkPlan(
            page.Name,
            page.LinkText,
            page.LinkBuilder,
            page.Parameters.Select(p =>
                (LinkFiller?)
                    new LinkFiller(
                        p.Key,
                        load.Add(Table(p), p.Path?.Owner(other) ?? other, p.Field),
                        by is not null && p.Path is null && other.Key is [var key] && key == p.Field
                            ? by.Name
                            : $"{other.Table.Name}.{p.Field.Name}"
                    )
            ),
            page.OwnsLink
        );

        int Table(PageParameter parameter) => (parameter.Path?.Steps ?? []).Aggregate(joined, load.Join);
    }

    private LinkPlan? Unknown(LinkDefinition link)
    {
        findings.AddUnknown(FindingCodes.UnknownPage, link.To, "page", pages.Keys);
        return null;
    }

    private void CheckNames(LinkDefinition link, PageHead target)
    {
        foreach (var pass in link.With.Where(pass => !target.Template.Parameters.Contains(pass.Parameter.Value)))
        {
            var twin = target.Template.Parameters.FirstOrDefault(name => NearName.Is(name, pass.Parameter.Value));
            if (twin is not null)
                findings.Add(
                    new Finding(
                        Code: FindingCodes.LinkParameterCase,
                        At: pass.Parameter.At,
                        Message: $"The link passes “{pass.Parameter}”, but the page “{target.Name}” reads “{twin}”.",
                        Remedy: $"Write {twin}.",
                        Found: pass.Parameter.Value,
                        Expected: twin,
                        Nearest: twin
                    )
                );
            else
                findings.Add(
                    new Finding(
                        Code: FindingCodes.LinkPassesUnexpected,
                        At: pass.Parameter.At,
                        Message: $"The link passes “{pass.Parameter}”, which the page “{target.Name}” does not read.",
                        Remedy: $"Remove “{pass.Parameter}”.",
                        Found: pass.Parameter.Value,
                        Expected: target.Template.Parameters.Count == 0
                            ? "no parameter"
                            : string.Join(", ", target.Template.Parameters),
                        Nearest: Nearest.To(pass.Parameter.Value, target.Template.Parameters)
                    )
                );
        }
    }

    private static PassDefinition? Explicit(LinkDefinition link, string parameter) =>
        link.With.FirstOrDefault(pass => pass.Parameter.Value == parameter);

    private FieldPath? Stated(PassDefinition pass, PageParameter parameter, PageHead target, SiteRecord from)
    {
        if (graph.Find(pass.Field, from, "part of an address", findings) is not { } path)
            return null;
        if (!Fits(path.Field, parameter, target, pass.Field.At))
            return null;
        if (target.Kind is { } kind && parameter.IsEqual && parameter.Key is not DatePartKey)
        {
            _meaning.Check(
                pass.Field.At,
                $"The link fills {parameter.Name} of “{target.Name}” from",
                path.Field,
                path.Owner(from),
                parameter.Field,
                parameter.Path?.Owner(kind) ?? kind
            );
        }

        return path;
    }

    /// <summary>
    /// The only field that can fill a parameter: the record's own field; that of the only foreign key to the page's record; the
    /// one that the page's records refer to; or a foreign key that both have.
    /// </summary>
    private FieldPath? Implied(LinkDefinition link, PageParameter parameter, PageHead target, SiteRecord from)
    {
        if (target.Kind == from && parameter.IsEqual)
            return parameter.Path ?? FieldPath.Own(parameter.Field);
        if (
            target.Kind == from
            && from.QueryParameters.Any(own => own.Name == parameter.Name)
            && from.Find(parameter.Name) is { Secret: false } repeated
        )
            return FieldPath.Own(repeated);
        if (link.With.Any(pass => NearName.Is(pass.Parameter.Value, parameter.Name)))
            return null;
        var ways = target.Kind is null || !parameter.IsEqual ? [] : Ways(parameter, target.Kind, from).Distinct().ToList();
        if (ways.Count == 1)
        {
            var field = from.Fields.First(f => f.Column.Name == ways[0]);
            return Fits(field, parameter, target, link.To.At) ? FieldPath.Own(field) : null;
        }

        findings.Add(
            ways.Count == 0 ? FindingCodes.LinkLacksParameter : FindingCodes.LinkAmbiguous,
            link.To.At,
            ways.Count == 0
                ? $"The link does not pass {parameter.Name}, which the page “{target.Name}” needs."
                : $"The link could fill {parameter.Name} of “{target.Name}” from {string.Join(" or from ", ways)}.",
            $"Add with: {{ {parameter.Name}: FIELD }} to the link.",
            expected: "a field of " + from.Name + (ways.Count == 0 ? "" : ": " + string.Join(" or ", ways))
        );
        return null;
    }

    /// <summary>The columns of a record that a parameter of another record's page can mean.</summary>
    private static IEnumerable<string> Ways(PageParameter parameter, SiteRecord to, SiteRecord from)
    {
        if (to.Source != from.Source)
            return [];
        var column = parameter.Field.Column.Name;
        var holder = parameter.Path?.Owner(to) ?? to;
        if (holder == from)
            return [column];
        var direct = Leading(from, holder.Table.Name, column).ToList();
        if (direct.Count > 0)
            return direct;

        // The parameter is itself a foreign key: to this record, or to one that this record refers to as well.
        var aims = holder
            .References.Where(key => key.Columns.Contains(column))
            .Select(key => (key.Table, Column: key.References[key.Columns.ToList().IndexOf(column)]))
            .ToList();
        var back = aims.Where(aim => aim.Table == from.Table.Name).Select(aim => aim.Column).ToList();
        return back.Count > 0 ? back : aims.SelectMany(aim => Leading(from, aim.Table, aim.Column));
    }

    /// <summary>The columns whose foreign keys refer to a column of a table.</summary>
    private static IEnumerable<string> Leading(SiteRecord from, string table, string column) =>
        from
            .References.Where(key => key.Table == table && key.References.Contains(column))
            .Select(key => key.Columns[key.References.ToList().IndexOf(column)]);

    private bool Fits(SiteField field, PageParameter parameter, PageHead target, Place at)
    {
        if (KeyType.For(field.Column, field.Type, field.Form)?.Type == parameter.Key.Type)
            return true;
        if (parameter.Key is DatePartKey && field.Type is FieldType.Date or FieldType.Timestamp)
            return true;
        if (parameter.Key is NumberKey && field.Type is FieldType.Integer or FieldType.Real or FieldType.Decimal)
            return true;
        findings.Add(
            FindingCodes.LinkOtherType,
            at,
            $"The link fills {parameter.Name} of “{target.Name}”, which is {parameter.Key.Type.Word()}, from "
                + $"{field.Name}, which is {field.Type.Word()}.",
            $"Fill {parameter.Name} from a field that is {parameter.Key.Type.Word()}.",
            found: $"{field.Name} ({field.Type.Word()})",
            expected: $"a field that is {parameter.Key.Type.Word()}"
        );
        return false;
    }
}
