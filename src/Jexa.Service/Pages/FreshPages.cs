using System.Globalization;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Files;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Service.Hosting;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Pages;

/// <summary>
/// For developing: pages get a script that loads them again when the app file, a design, or a file that a design uses is saved.
/// The script asks at <c>/_jexa/fresh?of=VERSION</c>, and is answered when there is another version.
/// </summary>
internal sealed class FreshPages(SiteHost host)
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(150);

    /// <summary>For how long one question is kept open.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);

    private readonly ConditionalWeakTable<Site, string> _names = [];

    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved && target.Segments.Length == 2 && target.Text(1).SequenceEqual("fresh");

    public async Task AnswerAsync(HttpContext http, RequestTarget target)
    {
        var known = target.Query is [{ Name: "of", Value: { } text }] ? text : "";
        var started = host.Clock.GetTimestamp();
        try
        {
            while (known == Version() && host.Clock.GetElapsedTime(started) < Longest)
                await Task.Delay(Pause, host.Clock, http.RequestAborted);
            http.Response.ContentType = "text/plain; charset=utf-8";
            http.Response.Headers.CacheControl = "no-store";
            await http.Response.WriteAsync(Version(), http.RequestAborted);
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            // The page was left.
        }
    }

    /// <summary>Adds the script to a page.</summary>
    public void AddScript(Utf8Buffer html) =>
        ScriptPlace.Add(
            html,
            $"<script src=\"{host.Site.Frame.Mount}/{RequestTarget.ReservedSegment}/fresh.js\" defer></script>\n"
        );

    /// <summary>What is another text as soon as pages would look different.</summary>
    private string Version()
    {
        var site = host.Site;
        var folder = Path.GetDirectoryName(Path.GetFullPath(site.File))!;
        var latest = site
            .Bodies.SelectMany(body => body.Files)
            .Concat(site.Frame.Texts.Design?.Files ?? [])
            .Select(file => Path.Combine(folder, file))
            .Append(site.Frame.Texts.Style ?? "")
            .Distinct()
            .Select(file => file.Length == 0 ? 0 : FileStatus.Of(file)?.ChangedAt ?? 0)
            .DefaultIfEmpty(0)
            .Max();
        return $"{_names.GetValue(site, _ => Guid.NewGuid().ToString("N"))}-{latest.ToString(CultureInfo.InvariantCulture)}";
    }
}
