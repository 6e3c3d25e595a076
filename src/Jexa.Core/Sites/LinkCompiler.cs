using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// Compiles links: checks that each passes what its page reads, no more, under the same names, of the same types; and
/// fills in what is left out where only one reading is possible.
/// </summary>
internal sealed class LinkCompiler(
    IReadOnlyDictionary<string, PageHead?> pages, IReadOnlyList<SiteRecord> records, string mount, FindingList findings)
{
    /// <summary>The address of a page that is linked but not written: it says so when visited.</summary>
    public const string UnwrittenSegment = "unwritten";

    /// <summary>The link; null where it cannot be made. What is wrong with it has been reported.</summary>
    public LinkPlan? Compile(LinkDefinition link, Projections load)
    {
        if (!pages.TryGetValue(link.To.Value, out var target))
            return Nearest.To(link.To.Value, pages.Keys) is null ? Unwritten(link) : Unknown(link);
        if (target is null) return null;

        var text = link.Text?.Value ?? PageText(target);
        CheckNames(link, target);
        var fillers = new List<LinkFiller>();
        foreach (var parameter in target.Parameters)
        {
            var field = Explicit(link, parameter.Name) is { } pass
                ? Stated(pass, parameter, target, load.Record)
                : Implied(link, parameter, target, load.Record);
            if (field is null) continue;
            if (field.Column.Nullable)
                findings.Add(FindingCodes.LinkMayBeEmpty, Explicit(link, parameter.Name)?.Field.At ?? link.To.At,
                    $"The link to “{target.Name}” fills {parameter.Name} from {field.Name}, which may be empty: such rows have no link.",
                    "Declare the column NOT NULL in the source, or fill the parameter from another field.", found: field.Name,
                    expected: "a field that is never empty");
            fillers.Add(new LinkFiller(parameter.Key, load.Add(field), field.Name));
        }

        if (fillers.Count < target.Parameters.Count) return null;
        return target.Builder.Fixed is { } address
            ? new LinkPlan(target.Name, text, address)
            : new LinkPlan(target.Name, text, target.Builder, fillers, target.LeadsThere);
    }

    /// <summary>Reports what can be said of a link whose own page could not be compiled: whether its target is there and reads what it passes.</summary>
    public void Check(LinkDefinition link)
    {
        if (!pages.TryGetValue(link.To.Value, out var target)) _ = Nearest.To(link.To.Value, pages.Keys) is null ? Unwritten(link) : Unknown(link);
        else if (target is not null) CheckNames(link, target);
    }

    /// <summary>The link from a loaded row to its own record's page.</summary>
    public static LinkPlan ToOwn(PageHead page, Projections load, string text) =>
        new(page.Name, text, page.Builder, page.Parameters.Select(p => new LinkFiller(p.Key, load.Add(p.Field), p.Field.Name)), page.LeadsThere);

    /// <summary>The page of one record that its key leads to; null where none is written.</summary>
    public PageHead? PageOf(SiteRecord record) =>
        pages.Values.OfType<PageHead>().FirstOrDefault(page => page.Record == record && page.Definition.Kind == PageKind.Detail
            && page.Parameters.All(parameter => record.Key.Contains(parameter.Field)))
        ?? pages.Values.OfType<PageHead>().FirstOrDefault(page => page.Record == record && page.Definition.Kind == PageKind.Detail);

    /// <summary>How a foreign key shows the record it leads to; null for a field that is none, or leads to no record kind of the app.</summary>
    public ReferencePlan? Reference(SiteField field, Projections load)
    {
        var key = load.Record.Table.ForeignKeys.FirstOrDefault(key => key.Columns is [var only] && only == field.Column.Name);
        if (key is null || Other(load.Record, key) is not { } other || !other.Table.IsUnique([.. key.References])) return null;
        var table = load.Join(key, other);
        var seen = other.Fields.First(f => f.Column.Name == key.References[0]);
        var presence = load.Add(new Plans.ColumnRef(table, seen.Column.Name), seen.Type);
        var link = PageOf(other) is not { } page ? null
            : new LinkPlan(page.Name, PageText(page), page.Builder,
                page.Parameters.Select(p => new LinkFiller(p.Key, load.Add(new Plans.ColumnRef(table, p.Field.Column.Name), p.Field.Type),
                    p.Field == seen ? field.Name : $"{other.Table.Name}.{p.Field.Name}")), page.LeadsThere);
        return new ReferencePlan(load.Label(other, table), presence, link);
    }

    public static string PageText(PageHead page) =>
        page.Definition.Kind == PageKind.List ? ListHeading(page) : Labels.Capital(page.Record.One);

    public static string ListHeading(PageHead page) => page.Definition.Title?.Value ?? Labels.OfPage(page.Name);

    /// <summary>Whether two parameter names are one name in other case or with other separators.</summary>
    public static bool IsNearlyTheSame(string a, string b) => a != b && Folded(a) == Folded(b);

    private static string Folded(string name) =>
        string.Concat(name.Where(c => c is not ('_' or '-' or '.' or ' ')).Select(char.ToLowerInvariant));

    private LinkPlan? Unknown(LinkDefinition link)
    {
        findings.AddUnknown(FindingCodes.UnknownPage, link.To, "page", pages.Keys);
        return null;
    }

    private LinkPlan Unwritten(LinkDefinition link)
    {
        findings.Add(FindingCodes.LinkToUnwrittenPage, link.To.At, $"The page “{link.To}” is not written yet; its link will say so.",
            $"Write the page “{link.To}”, or remove the link.", found: link.To.Value, expected: "one of " + string.Join(", ", pages.Keys));
        return new LinkPlan(link.To.Value, link.Text?.Value ?? Labels.OfPage(link.To.Value),
            $"{mount}/{RequestTarget.ReservedSegment}/{UnwrittenSegment}/{Uri.EscapeDataString(link.To.Value)}");
    }

    private void CheckNames(LinkDefinition link, PageHead target)
    {
        foreach (var pass in link.With.Where(pass => !target.Template.Parameters.Contains(pass.Parameter.Value)))
        {
            var twin = target.Template.Parameters.FirstOrDefault(name => IsNearlyTheSame(name, pass.Parameter.Value));
            if (twin is not null)
                findings.Add(FindingCodes.LinkParameterCase, pass.Parameter.At,
                    $"The link passes “{pass.Parameter}”, but the page “{target.Name}” reads “{twin}”.", $"Write {twin}.",
                    found: pass.Parameter.Value, expected: twin, nearest: twin);
            else
                findings.Add(FindingCodes.LinkPassesUnexpected, pass.Parameter.At,
                    $"The link passes “{pass.Parameter}”, which the page “{target.Name}” does not read.", $"Remove “{pass.Parameter}”.",
                    found: pass.Parameter.Value, expected: target.Template.Parameters.Count == 0 ? "no parameter" : string.Join(", ", target.Template.Parameters),
                    nearest: Nearest.To(pass.Parameter.Value, target.Template.Parameters));
        }
    }

    private static PassDefinition? Explicit(LinkDefinition link, string parameter) =>
        link.With.FirstOrDefault(pass => pass.Parameter.Value == parameter);

    private SiteField? Stated(PassDefinition pass, PageParameter parameter, PageHead target, SiteRecord from)
    {
        if (FieldUse.Find(pass.Field, from.Fields, "part of an address", findings) is not { } field) return null;
        return Fits(field, parameter, target, pass.Field.At) ? field : null;
    }

    /// <summary>The only field that can fill a parameter: the record's own, or that of the one foreign key that leads there.</summary>
    private SiteField? Implied(LinkDefinition link, PageParameter parameter, PageHead target, SiteRecord from)
    {
        if (target.Record == from) return parameter.Field;
        if (link.With.Any(pass => IsNearlyTheSame(pass.Parameter.Value, parameter.Name))) return null;
        var ways = from.Table.ForeignKeys
            .Where(key => target.Record.Source == from.Source && key.Table == target.Record.Table.Name && key.References.Contains(parameter.Field.Column.Name))
            .Select(key => key.Columns[key.References.ToList().IndexOf(parameter.Field.Column.Name)]).Distinct().ToList();
        if (ways.Count == 1)
        {
            var field = from.Fields.First(f => f.Column.Name == ways[0]);
            return Fits(field, parameter, target, link.To.At) ? field : null;
        }

        findings.Add(ways.Count == 0 ? FindingCodes.LinkLacksParameter : FindingCodes.LinkAmbiguous, link.To.At,
            ways.Count == 0
                ? $"The link does not pass {parameter.Name}, which the page “{target.Name}” needs."
                : $"The link could fill {parameter.Name} of “{target.Name}” from {string.Join(" or from ", ways)}.",
            $"Add with: {{ {parameter.Name}: FIELD }} to the link.",
            expected: "a field of " + from.Name + (ways.Count == 0 ? "" : ": " + string.Join(" or ", ways)));
        return null;
    }

    private bool Fits(SiteField field, PageParameter parameter, PageHead target, Place at)
    {
        if (KeyType.For(field.Column, field.Type, field.Form)?.Type == parameter.Key.Type) return true;
        findings.Add(FindingCodes.LinkOtherType, at,
            $"The link fills {parameter.Name} of “{target.Name}”, which is {parameter.Key.Type.Word()}, from {field.Name}, which is {field.Type.Word()}.",
            $"Fill {parameter.Name} from a field that is {parameter.Key.Type.Word()}.", found: $"{field.Name} ({field.Type.Word()})",
            expected: $"a field that is {parameter.Key.Type.Word()}");
        return false;
    }

    private SiteRecord? Other(SiteRecord from, ForeignKeySchema key) =>
        records.FirstOrDefault(record => record.Source == from.Source && record.Table.Name == key.Table);
}
