using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>Reads parameters from a target that matched a page.</summary>
internal static class ParameterReader
{
    /// <summary>The place after which a list's window begins.</summary>
    public const string After = "after";

    /// <summary>The place before which a list's window ends, or <see cref="End"/>.</summary>
    public const string Before = "before";

    /// <summary>Stands for the end of a list.</summary>
    public const string End = "end";

    /// <summary>The words that a list is searched for.</summary>
    public const string Find = ListControlNames.Find;

    /// <summary>The column that a list is ordered by. A minus before it reverses the order.</summary>
    public const string Order = ListControlNames.Order;

    /// <summary>The number of rows in a window of a list.</summary>
    public const string Size = ListControlNames.Size;

    /// <summary>The list, and the place in it, that a visitor comes from.</summary>
    public const string From = ListControlNames.From;

    /// <summary>Says on a list which page's ID was missing: <c>PAGE.PARAMETER</c>.</summary>
    public const string Lacking = "lacking";

    /// <summary>Values of one parameter that may be given several times.</summary>
    public const int MaxValues = 50;

    /// <summary>The names of all controls of a list.</summary>
    public static IReadOnlyList<string> Controls { get; } = [Find, Order, Size, After, Before];

    /// <summary>
    /// Chooses among pages that share a path: the page whose required parameters are all present and most in number, else the one
    /// that lacks the fewest. An empty parameter counts as present. A page with a parameter of a similar name wins over all
    /// others, because only it can say what is wrong with the name.
    /// </summary>
    /// <param name="rival">Another page that the address fits equally well.</param>
    public static Page Choose(IReadOnlyList<Page> pages, RequestTarget target, out Page? rival)
    {
        rival = null;
        return pages.Count == 1 ? pages[0] : ChooseOfSeveral(pages, target, out rival);
    }

    private static Page ChooseOfSeveral(IReadOnlyList<Page> pages, RequestTarget target, out Page? rival)
    {
        rival = null;
        var ranked = pages
            .Select(page => (page, required: RequiredOf(page)))
            .Select(candidate =>
                (
                    candidate.page,
                    candidate.required,
                    absent: candidate.required.Count(name => !target.Query.Any(pair => pair.Name == name)),
                    isMisnamed: IsMisnamed(candidate.page, pages, target)
                )
            )
            .OrderByDescending(candidate => candidate.isMisnamed)
            .ThenBy(candidate => candidate.absent > 0)
            .ThenBy(candidate => candidate.absent)
            .ThenByDescending(candidate => candidate.required.Count)
            .ToList();
        var (first, second) = (ranked[0], ranked[1]);
        if (!first.isMisnamed && first.absent == 0 && second.absent == 0 && first.required.Count == second.required.Count)
            rival = second.page;
        return first.page;
    }

    /// <summary>
    /// Whether the address has a name similar to one of this page's parameters, and equal to none of any page's.
    /// </summary>
    private static bool IsMisnamed(Page page, IReadOnlyList<Page> pages, RequestTarget target)
    {
        foreach (var pair in target.Query)
        {
            if (!InQuery(page).Any(name => NearName.Is(pair.Name, name)))
                continue;
            if (!pages.Any(other => InQuery(other).Contains(pair.Name)))
                return true;
        }

        return false;

        static IEnumerable<string> InQuery(Page page) =>
            page.Parameters.Where(parameter => parameter.Segment < 0).Select(parameter => parameter.Name);
    }

    /// <summary>The query parameters that a page requires.</summary>
    public static List<string> RequiredOf(Page page) =>
        [
            .. page
                .Parameters.Where(parameter => parameter is { Segment: < 0, Required: true })
                .Select(parameter => parameter.Name),
        ];

    public static RawParameter Read(RequestTarget target, PageParameter parameter)
    {
        if (parameter.Segment < 0)
            return FromQuery(target.Query, parameter.Name);
        if (target.Segments[parameter.Segment].IsBad)
            return new RawParameter(null, KeyFault.BadEncoding);
        var text = target.Text(parameter.Segment);
        return new RawParameter(text[parameter.Prefix.Length..^parameter.Suffix.Length].ToString(), KeyFault.None);
    }

    /// <summary>Reads a query parameter by its exact name. A similar name is an error, not an absence.</summary>
    public static RawParameter FromQuery(IReadOnlyList<QueryPair> pairs, string name)
    {
        string? text = null;
        var count = 0;
        for (var i = 0; i < pairs.Count; i++)
        {
            var pair = pairs[i];
            if (pair.Name == name)
            {
                if (pair.Value is null)
                    return new RawParameter(null, KeyFault.BadEncoding);
                text = pair.Value;
                count++;
            }
            else if (NearName.Is(pair.Name, name))
            {
                return new RawParameter(pair.Name, KeyFault.OtherName);
            }
        }

        return count > 1 ? new RawParameter(text, KeyFault.GivenTwice) : new RawParameter(text, KeyFault.None);
    }

    /// <summary>The value of a text that an address gives; neither value nor fault if it is absent or empty.</summary>
    public static KeyReading Value(RawParameter raw, KeyType key) =>
        raw.Fault != KeyFault.None ? KeyReading.Failed(raw.Fault)
        : string.IsNullOrEmpty(raw.Text) ? default
        : key.Read(raw.Text);

    /// <summary>The values of a parameter that may be given several times.</summary>
    /// <param name="trace">Told of each; null if nothing is traced.</param>
    public static ManyValues Many(IReadOnlyList<QueryPair> pairs, PageParameter parameter, VisitTrace? trace)
    {
        var values = new List<TypedValue>();
        var canonical = true;
        foreach (var pair in pairs)
        {
            if (NearName.Is(pair.Name, parameter.Name))
                return new ManyValues([], pair.Name, KeyFault.OtherName, true);
            if (pair.Name != parameter.Name)
                continue;
            var reading =
                values.Count == MaxValues
                    ? KeyReading.Failed(KeyFault.TooMany)
                    : Value(
                        new RawParameter(pair.Value, pair.Value is null ? KeyFault.BadEncoding : KeyFault.None),
                        parameter.Key
                    );
            trace?.Add(new TracedParameter(parameter.Name, pair.Value, reading));
            if (reading.Fault != KeyFault.None)
                return new ManyValues([], pair.Value, reading.Fault, true);
            if (reading.Value is not { } value || values.Contains(value))
            {
                canonical = false;
                continue;
            }

            values.Add(value);
            canonical &= reading.IsCanonical;
        }

        return new ManyValues(values, null, KeyFault.None, canonical);
    }

    /// <summary>
    /// The number of a list's month parameter that is given while the year of the same field is not: a month says
    /// nothing by itself. -1 if there is none.
    /// </summary>
    /// <param name="isGiven">Whether the parameter of this number has a value.</param>
    public static int MonthAlone(Page page, Func<int, bool> isGiven)
    {
        if (page is not ListPage)
            return -1;
        for (var month = 0; month < page.Parameters.Count; month++)
            if (
                page.Parameters[month].Key == DatePartKey.Month
                && isGiven(month)
                && YearOf(page, page.Parameters[month]) is >= 0 and var year
                && !isGiven(year)
            )
                return month;
        return -1;
    }

    /// <summary>The number of the parameter that is the year of a month's field; -1 if there is none.</summary>
    public static int YearOf(Page page, PageParameter month) =>
        page.Parameters.ToList().FindIndex(parameter => parameter.Key == DatePartKey.Year && parameter.Field == month.Field);

    /// <summary>The raw query string without the pairs of these names, to follow <c>?</c> or <c>&amp;</c>.</summary>
    public static string RestOfQuery(RequestTarget target, IReadOnlyCollection<string> names)
    {
        if (target.QueryString.Length <= 1)
            return "";
        var kept = target
            .QueryString[1..]
            .ToString()
            .Split('&')
            .Where(pair => !names.Contains(PercentCoding.Decode(pair.Split('=')[0], plusIsSpace: true) ?? ""));
        return string.Join('&', kept);
    }
}
