using System.Text.RegularExpressions;
using Jexa.Core.Edits;
using Jexa.Core.Files;
using Jexa.Core.Formats;
using Jexa.Service.Media;
using SkiaSharp;

namespace Jexa.Service.Uploads;

/// <summary>Which files a field takes. A kind is told by the content; only where that does not tell it, by the name.</summary>
internal static partial class UploadKinds
{
    /// <summary>The most pixels of a picture on one side.</summary>
    private const int MostSide = 30_000;

    /// <summary>The most pixels of a picture that is read to know it.</summary>
    private const long MostRead = 20_000_000;

    private static readonly Dictionary<string, string> Words = new()
    {
        ["jpg"] = "JPEG",
        ["png"] = "PNG",
        ["webp"] = "WebP",
        ["gif"] = "GIF",
        ["avif"] = "AVIF",
        ["svg"] = "SVG",
    };

    /// <summary>The ending for the file's name, without its point; null, and why, if the field does not take it.</summary>
    public static string? Ending(UploadPlan plan, string path, string sentName, out string fault)
    {
        fault = "";
        using var file = PlainFile.OpenRead(path);
        var kind = ContentKind.OfFile(file).Ending.TrimStart('.');
        var named = NameEnding().Match(sentName) is { Success: true } match ? match.Groups[1].Value.ToLowerInvariant() : "";
        var ending = kind is "bin" or "txt" or "zip" && plan.Form == FieldForm.File && named.Length > 0 ? named : kind;
        if (plan.Kinds.Count > 0 && !plan.Kinds.Contains(ending))
        {
            fault = $"“{Cut(sentName)}” is not of a kind that is taken here: {Said(plan)}.";
            return null;
        }

        if (plan.Form == FieldForm.Picture && kind is not ("avif" or "svg") && !IsPicture(path))
        {
            fault = $"“{Cut(sentName)}” begins like a picture, and is none.";
            return null;
        }

        return ending;
    }

    /// <summary>The kinds for people.</summary>
    public static string Said(UploadPlan plan) =>
        plan.Kinds.Count == 0
            ? "any"
            : string.Join(", ", plan.Kinds.Select(kind => Words.GetValueOrDefault(kind) ?? kind.ToUpperInvariant()));

    /// <summary>What a browser offers to choose from (HTML, <c>accept</c>).</summary>
    public static string Accepted(UploadPlan plan) =>
        string.Join(",", plan.Kinds.SelectMany(kind => kind == "jpg" ? [".jpg", ".jpeg"] : new[] { "." + kind }));

    public static string Cut(string name) => name.Length <= 60 ? name : name[..60] + "…";

    private static bool IsPicture(string path)
    {
        using var codec = SKCodec.Create(path);
        if (codec is not { Info: { Width: > 0 and < MostSide, Height: > 0 and < MostSide } })
            return false;
        if (codec.EncodedFormat != SKEncodedImageFormat.Gif)
            return true;

        // Almost any text may stand behind the first letters of a GIF file, so its first frame is read.
        if ((long)codec.Info.Width * codec.Info.Height > MostRead)
            return false;
        using var frame = new SKBitmap(codec.Info);
        return codec.GetPixels(frame.Info, frame.GetPixels()) == SKCodecResult.Success;
    }

    [GeneratedRegex(@"\.([A-Za-z0-9]{1,8})$")]
    private static partial Regex NameEnding();
}
