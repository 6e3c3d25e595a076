using Jexa.Core.Addresses;
using Jexa.Service.Assets;

namespace Jexa.Service.Html;

/// <summary>Jexa's own files on the pages' door, below <c>/_jexa/</c>.</summary>
public sealed class PageAssets
{
    private readonly Dictionary<string, Asset> _assets = new[]
    {
        Asset.Embedded("Jexa.Service.Html.Assets.style.css", "style.css", "text/css; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.ahead.js", "ahead.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.beside.js", "beside.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.form.js", "form.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.fresh.js", "fresh.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.loading.js", "loading.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.play.js", "play.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.upload.js", "upload.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.point.js", "point.js", "text/javascript; charset=utf-8"),
        Asset.Embedded("Jexa.Service.Html.Assets.icon.svg", "icon.svg", "image/svg+xml"),
    }.ToDictionary(asset => asset.Name);

    /// <summary>Changes with the style sheet, so that browsers may keep it.</summary>
    public string StyleVersion => _assets["style.css"].Tag;

    public Asset Icon => _assets["icon.svg"];

    /// <summary>The asset at a target; null for other targets.</summary>
    public Asset? Find(RequestTarget target) =>
        target.IsReserved && target.Segments.Length == 2 && _assets.TryGetValue(target.Text(1).ToString(), out var asset)
            ? asset
            : null;
}
