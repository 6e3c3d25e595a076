using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Visits;

/// <summary>One text taken out of an address by name: absent, there, or unusable.</summary>
/// <param name="Text">Null where it is absent or unusable.</param>
/// <param name="Fault">Why it is unusable.</param>
internal readonly record struct RawParameter(string? Text, KeyFault Fault);

/// <summary>Takes parameters out of a target that has been matched.</summary>
internal static class ParameterReader
{
    /// <summary>The place behind which a list's window begins.</summary>
    public const string After = "after";

    /// <summary>The place before which a list's window ends, or <see cref="End"/>.</summary>
    public const string Before = "before";

    /// <summary>Stands for the end of a list.</summary>
    public const string End = "end";

    /// <summary>Says on a list which page's ID was lacking: <c>PAGE.PARAMETER</c>.</summary>
    public const string Lacking = "lacking";

    /// <summary>
    /// Of the pages that share a path, the one whose required parameters are all present and most; where there is none, the
    /// one that lacks the fewest. Present but empty counts as present.
    /// </summary>
    public static Page Choose(IReadOnlyList<Page> pages, RequestTarget target)
    {
        if (pages.Count == 1) return pages[0];
        return pages
            .Select(page => (page, absent: page.Head.Template.QueryParameters.Count(name => !target.Query.Any(pair => pair.Name == name))))
            .OrderBy(candidate => candidate.absent > 0)
            .ThenBy(candidate => candidate.absent)
            .ThenByDescending(candidate => candidate.page.Head.Template.QueryParameters.Count)
            .First().page;
    }

    public static RawParameter Read(RequestTarget target, PageParameter parameter)
    {
        if (parameter.Segment < 0) return FromQuery(target, parameter.Name);
        if (target.Segments[parameter.Segment].IsBad) return new RawParameter(null, KeyFault.BadEncoding);
        var text = target.Text(parameter.Segment);
        return new RawParameter(text[parameter.Prefix.Length..^parameter.Suffix.Length].ToString(), KeyFault.None);
    }

    /// <summary>A query parameter by its exact name. A name that is nearly the same is an error, not an absence.</summary>
    public static RawParameter FromQuery(RequestTarget target, string name)
    {
        string? text = null;
        var count = 0;
        foreach (var pair in target.Query)
        {
            if (pair.Name == name)
            {
                if (pair.Value is null) return new RawParameter(null, KeyFault.BadEncoding);
                text = pair.Value;
                count++;
            }
            else if (LinkCompiler.IsNearlyTheSame(pair.Name, name))
            {
                return new RawParameter(pair.Name, KeyFault.OtherName);
            }
        }

        return count > 1 ? new RawParameter(text, KeyFault.GivenTwice) : new RawParameter(text, KeyFault.None);
    }

    /// <summary>The raw query string without the pairs of these names, ready to go behind <c>?</c> or <c>&amp;</c>.</summary>
    public static string RestOfQuery(RequestTarget target, IReadOnlyList<string> names)
    {
        if (target.QueryString.Length <= 1) return "";
        var kept = target.QueryString[1..].ToString().Split('&')
            .Where(pair => !names.Contains(PercentCoding.Decode(pair.Split('=')[0], plusIsSpace: true) ?? ""));
        return string.Join('&', kept);
    }
}
