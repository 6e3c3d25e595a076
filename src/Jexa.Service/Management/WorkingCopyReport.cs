using Jexa.Core.Definitions;
using Jexa.Core.Rewriting;
using Jexa.Core.Sites;
using Jexa.Core.Views;
using Jexa.Service.Workshop;

namespace Jexa.Service.Management;

/// <summary>Describes a working copy for the management API.</summary>
internal static class WorkingCopyReport
{
    public static WorkingCopyInfo Of(WorkshopState state, Workbench bench)
    {
        var (copy, compilation) = (state.Copy, state.Compilation);
        var map = state.Map;
        return new WorkingCopyInfo(
            bench.Disk.File,
            copy.Text,
            copy.Version,
            state.Revision,
            state.IsChanged,
            state.DiskDiffers,
            state.Disk.IsGone && copy.Base is not null,
            bench.Disk.Obstacle() ?? state.Disk.Trouble,
            [.. copy.Steps.Select(step => step.Label)],
            copy.Done,
            map is not null,
            compilation.Site is not null,
            bench.Preview.Mount.Text,
            bench.Preview.Site is { } site ? Pages(site, map) : [],
            Findings(compilation.FindingsInAppFile, compilation.Definition, map)
        );
    }

    private static List<WorkingPageInfo> Pages(Site site, FileMap? map)
    {
        var pages = SiteReport.Of(site);
        return [.. site.Pages.Zip(pages, (page, info) => Of(page, info, map))];
    }

    private static WorkingPageInfo Of(Page page, PageInfo info, FileMap? map)
    {
        var place = Places.Write(
            map is null || map.RangeOf(["pages", page.Name]) is not null || page.Name.LastIndexOf('-') is not (> 0 and var dash)
                ? ["pages", page.Name]
                : ["pages", page.Name[..dash]]
        );
        return page switch
        {
            ListPage list => new WorkingPageInfo(info, place, Names(list.Shape.Columns), Pages(list.Shape.Actions), 0),
            DetailPage detail => new WorkingPageInfo(
                info,
                place,
                Names(detail.Shape.Fields),
                Pages(detail.Shape.Links),
                detail.Blocks.Count
            ),
            _ => new WorkingPageInfo(info, place, [], [], 0),
        };
    }

    private static List<ChoiceInfo> Names(IReadOnlyList<ViewColumn> columns) =>
        [.. columns.Select(column => new ChoiceInfo(column.Name, column.Label))];

    private static List<ChoiceInfo> Pages(IReadOnlyList<LinkPlan> links) =>
        [.. links.Select(link => new ChoiceInfo(link.Page, link.Text))];

    private static List<WorkingFindingInfo> Findings(IReadOnlyList<Finding> findings, AppDefinition? definition, FileMap? map) =>
        [.. findings.Zip(SiteReport.Of(findings, definition), (finding, info) =>
            {
                var remedy = map is null ? null : Remedy.Of(finding, map);
                return new WorkingFindingInfo(
                    info,
                    map is null ? "" : Places.Write(map.At(finding.At.Line, finding.At.Column).Place),
                    remedy is null ? null : NamedChangeRequest.Of(remedy),
                    remedy is null ? null : $"Write {finding.Nearest}"
                );
            })];

    public static WorkingDifferenceInfo Difference(WorkshopState state, Workbench bench, Site served)
    {
        var copy = state.Copy;
        var before = state.Disk.IsGone ? "" : copy.Base ?? "";
        var texts = copy.Texts.Where(text => copy.BaseTexts[text.Key] != text.Value).ToList();
        var patch = texts
            .Select(text => UnifiedPatch.Of(text.Key, copy.BaseTexts[text.Key], text.Value))
            .Prepend(UnifiedPatch.Of(bench.Disk.Name, before, copy.Text));
        return new WorkingDifferenceInfo(
            ChangedFileInfo.Of(LineDifference.Between(before, copy.Text)),
            [
                .. texts.Select(text => new ChangedTextInfo(
                    text.Key,
                    ChangedFileInfo.Of(LineDifference.Between(copy.BaseTexts[text.Key], text.Value))
                )),
            ],
            state.Compilation.Partial is { } site ? Lost(served, site) : [],
            state.DiskDiffers
                ?
                [
                    .. LineMerge
                        .Parts(copy.Base ?? "", copy.Text, state.Disk.Text ?? "")
                        .Where(part => !part.Mine.SequenceEqual(part.Base) || !part.Theirs.SequenceEqual(part.Base))
                        .Select(part => new MergePartInfo(part.Line, part.IsConflict, part.Base, part.Mine, part.Theirs)),
                ]
                : [],
            string.Concat(patch)
        );
    }

    /// <summary>The paths of served pages that no page of the other site has, or had.</summary>
    private static List<string> Lost(Site served, Site site)
    {
        var kept = site.Pages.Select(page => Shape(page.Head)).Concat(site.Former.Select(page => Shape(page.Head))).ToHashSet();
        return [.. served.Pages.Where(page => !kept.Contains(Shape(page.Head))).Select(page => page.Head.Template.Text)];
    }

    /// <summary>A path without the names of its parameters.</summary>
    private static string Shape(PageHead head) =>
        string.Join('/', head.Template.Text.Split('/').Select(segment => segment.Contains('{') ? "{}" : segment));
}
