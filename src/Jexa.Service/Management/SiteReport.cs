using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Service.Management;

/// <summary>Describes sites and findings for the management API.</summary>
public static class SiteReport
{
    /// <summary>The pages of a site in the order of the app file, each with the links that lead to it.</summary>
    public static IReadOnlyList<PageInfo> Of(Site site)
    {
        var leading = site
            .Pages.SelectMany(page => page.Links.Select(link => (From: page, Link: link)))
            .ToLookup(pair => pair.Link.Plan.Page);
        var menu = site.Frame.Menu.Select(link => link.Page).ToHashSet();
        return
        [
            .. site.Pages.Select(page => new PageInfo(
                page.Name,
                page.Head.Template.Text,
                page.Kind,
                page.Record?.Name ?? "",
                page.Record?.SourceName ?? "",
                page.Head.Definition.Name.At.Line,
                [
                    .. page.Parameters.Select(p => new ParameterInfo(
                        p.Name,
                        p.Segment < 0 ? "query" : "path",
                        p.Path?.Name ?? p.Field.Name,
                        p.Key.Type.Word(),
                        p.Key.Looks,
                        p.Required
                    )),
                ],
                page.Head.AddressWithoutParameters,
                menu.Contains(page.Name),
                [.. page.Links.Select(link => Of(link.Plan.Page, link))],
                [.. leading[page.Name].Select(pair => Of(pair.From.Name, pair.Link))]
            )),
        ];
    }

    public static IReadOnlyList<FindingInfo> Of(IEnumerable<Finding> findings, AppDefinition? definition) =>
        [
            .. findings.Select(finding => new FindingInfo(
                finding.Code.Id,
                finding.Code.Severity.ToString().ToLowerInvariant(),
                finding.Code.Title,
                finding.At.File,
                finding.At.Line,
                finding.At.Column,
                definition?.PageAt(finding.At),
                finding.Message,
                finding.Found,
                finding.Expected,
                finding.Nearest,
                finding.Remedy
            )),
        ];

    /// <param name="other">The page at the other end.</param>
    private static PageLinkInfo Of(string other, PageLink link) =>
        new(
            other,
            link.Plan.Text,
            link.Column,
            link.Reason.ToString().ToLowerInvariant(),
            [.. link.Plan.ParameterNames.Zip(link.Plan.Fillers, (parameter, filler) => new PassInfo(parameter, filler.Field))]
        );
}
