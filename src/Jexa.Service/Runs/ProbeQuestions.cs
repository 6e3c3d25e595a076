using Jexa.Core.Edits;
using Jexa.Core.Proof;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Service.Proof;

namespace Jexa.Service.Runs;

/// <summary>How the pages of a service are probed, as its data stands now.</summary>
internal static class ProbeQuestions
{
    /// <param name="page">Only this page; null for all.</param>
    public static async Task<ProbeInfo> OfAsync(SiteHost host, IChangeLog log, string? page, CancellationToken cancellation)
    {
        var (cases, away) = (new List<ProbeCaseInfo>(), host.Site.Waiting.ToDictionary(name => name, _ => "its source is away"));
        var pages = host.Site.Pages.Where(one => page is null || one.Name == page).ToList();
        foreach (var one in pages)
        {
            try
            {
                IEnumerable<ProbeCase> all =
                [
                    .. await ProbeCases.OfAsync(host.Site, one, cancellation),
                    .. await FormerCases.OfAsync(host.Site, one, log, cancellation),
                ];
                cases.AddRange(
                    all.Select(made => new ProbeCaseInfo(
                        one.Name,
                        made.Kind,
                        made.Parameter,
                        made.Method,
                        made.Address,
                        made.Outcome.PublicWord,
                        made.Html,
                        made.Json,
                        made.Leads
                    ))
                );
            }
            catch (SourceException trouble)
            {
                away[one.Name] = trouble.Message;
            }
        }

        var allows = pages.ToDictionary(one => one.Name, one => one.Methods);
        return new ProbeInfo(cases, allows, host.Site.Frame.Mount.Text, away, SettingsOf(host));
    }

    /// <summary>What the app file says of findings in answers.</summary>
    private static List<FindingSettingInfo> SettingsOf(SiteHost host) =>
        [
            .. (host.File.Definition?.Settings ?? []).Select(setting => new FindingSettingInfo(
                setting.Code.Value,
                setting.On?.Value,
                setting.Severity?.ToString().ToLowerInvariant(),
                setting.Code.At.Line
            )),
        ];
}
