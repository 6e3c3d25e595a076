using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Service.Assets;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Media;

/// <summary>
/// The files that bodies use: <c>/_jexa/app/files/PATH</c> below the app file's folder, and <c>/_jexa/app/body/NAME</c>, the
/// styles and scripts that were written in a body itself. Only what a body names is served.
/// </summary>
internal static class BodyAssets
{
    private static readonly ConditionalWeakTable<Site, ConcurrentDictionary<string, Asset?>> MadeFiles = [];
    private static readonly ConditionalWeakTable<Site, HashSet<string>> Named = [];

    private static readonly Dictionary<string, string> Types = new()
    {
        [".css"] = "text/css; charset=utf-8",
        [".js"] = "text/javascript; charset=utf-8",
        [".mjs"] = "text/javascript; charset=utf-8",
        [".vtt"] = "text/vtt; charset=utf-8",
        [".woff"] = "font/woff",
        [".woff2"] = "font/woff2",
        [".ico"] = "image/x-icon",
        [".mp4"] = "video/mp4",
        [".webm"] = "video/webm",
        [".mp3"] = "audio/mpeg",
        [".ogg"] = "audio/ogg",
    };

    public static bool IsAsked(RequestTarget target) =>
        target.Segments.Length > 3 && (target.Text(2).SequenceEqual("files") || target.Text(2).SequenceEqual("body"));

    public static async Task AnswerAsync(HttpContext http, RequestTarget target, Site site)
    {
        if (target.Text(2).SequenceEqual("body"))
        {
            var name = target.Text(3).ToString();
            var made = MadeFiles.GetOrCreateValue(site).GetOrAdd(name, wanted => Made(site, wanted));
            if (made is not null)
                await AssetAnswer.SendAsync(http, made, "private, max-age=31536000, immutable");
            else
                await MediaAnswer.SendPictureAsync(http, null);
            return;
        }

        var parts = new string[target.Segments.Length - 3];
        for (var i = 0; i < parts.Length; i++)
            parts[i] = target.Text(i + 3).ToString();
        var path = string.Join('/', parts);
        var named = Named.GetValue(site, one =>
            [.. one.Bodies.SelectMany(body => body.Files), .. one.Frame.Texts.Design?.Files ?? []]
        );
        var file = named.Contains(path) ? Path.GetFullPath(path, Path.GetDirectoryName(Path.GetFullPath(site.File))!) : null;
        if (file is not null && Types.TryGetValue(Path.GetExtension(file).ToLowerInvariant(), out var type) && File.Exists(file))
            await MediaAnswer.SendFileAsync(http, file, type);
        else
            await MediaAnswer.SendPictureAsync(http, file);
    }

    private static Asset? Made(Site site, string name) =>
        site
            .Bodies.Select(body => body.Made.GetValueOrDefault(name))
            .Append(site.Frame.Texts.Design?.Made.GetValueOrDefault(name))
            .FirstOrDefault(bytes => bytes is not null)
            is { } found
            ? new Asset(name, Types[Path.GetExtension(name)], found)
            : null;
}
