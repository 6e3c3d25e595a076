using Jexa.Core.Sites;

namespace Jexa.Service.Pages;

/// <summary>The Content-Security-Policy of pages.</summary>
internal static class PagePolicy
{
    private static string Frames(IReadOnlyList<string> origins) =>
        origins.Count == 0 ? "" : $"frame-src {string.Join(' ', origins)}; ";

    /// <summary>
    /// Pictures, recordings and players may come from the origins in the app file, everything else only from here. A form shows a
    /// picture that was chosen before it is sent (<c>blob:</c>). Only the console may frame a page.
    /// </summary>
    public static string Of(Site site, int consolePort) =>
        "default-src 'none'; style-src 'self'; img-src "
        + $"{string.Join(' ', site.Frame.Texts.PictureOrigins.Prepend(site.Uploads.Count > 0 ? "'self' blob:" : "'self'"))}; "
        + "script-src 'self'; "
        + "font-src 'self'; media-src "
        + $"{string.Join(' ', site.Frame.Texts.RecordingOrigins.Prepend("'self'"))}; "
        + Frames(site.Frame.Texts.PlayerOrigins)
        + "connect-src 'self'; base-uri 'none'; "
        + $"form-action 'self'; frame-ancestors http://127.0.0.1:{consolePort} http://localhost:{consolePort}";
}
