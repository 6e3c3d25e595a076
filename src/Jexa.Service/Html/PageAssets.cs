using System.Security.Cryptography;
using Jexa.Core.Addresses;

namespace Jexa.Service.Html;

/// <summary>A file that pages need besides themselves.</summary>
public sealed record PageAsset(string Name, string MediaType, byte[] Bytes, string Tag);

/// <summary>Jexa's own files on the pages' door, below <c>/_jexa/</c>: part of the program, never of a disk.</summary>
public sealed class PageAssets
{
    private readonly Dictionary<string, PageAsset> _assets = [];

    public PageAssets()
    {
        Add("style.css", "text/css; charset=utf-8");
        Add("icon.svg", "image/svg+xml");
    }

    /// <summary>Changes when the style sheet does, so that browsers may keep it.</summary>
    public string StyleVersion => _assets["style.css"].Tag;

    /// <summary>The asset a target names; null for anything else.</summary>
    public PageAsset? Find(RequestTarget target) =>
        target.IsReserved && target.Segments.Length == 2 && _assets.TryGetValue(target.Text(1).ToString(), out var asset) ? asset : null;

    private void Add(string name, string mediaType)
    {
        using var stream = typeof(PageAssets).Assembly.GetManifestResourceStream($"Jexa.Service.Html.Assets.{name}")!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        _assets[name] = new PageAsset(name, mediaType, bytes, Convert.ToHexStringLower(SHA256.HashData(bytes).AsSpan(0, 6)));
    }
}
