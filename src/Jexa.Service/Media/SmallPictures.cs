using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Files;
using SkiaSharp;

namespace Jexa.Service.Media;

/// <summary>
/// Pictures made smaller: each once, when a browser first asks for it, and then kept in a folder. What cannot be made is sent as
/// it is.
/// </summary>
internal sealed class SmallPictures(string folder) : IDisposable
{
    /// <summary>The widths that are made, in pixels.</summary>
    public static IReadOnlyList<int> Widths { get; } = [240, 480, 960, 1600];

    private const string Parameter = "width";

    /// <summary>The most pixels of a picture that is read.</summary>
    private const long MostPixels = 120_000_000;

    /// <summary>The most bytes that are kept; the pictures that were asked for least recently go first.</summary>
    private const long MostKept = 1024L * 1024 * 1024;

    private const int Quality = 82;

    /// <summary>Reading a large picture takes much memory, so two are read at a time.</summary>
    private readonly SemaphoreSlim _turns = new(2);

    private int _made;

    /// <summary>Whether smaller ones can be made of a picture of this kind.</summary>
    public static bool CanShrink(string mediaType) => mediaType is "image/jpeg" or "image/png" or "image/webp";

    /// <summary>What comes behind a picture's address for a smaller one.</summary>
    public static string Asking(int width) => $"?{Parameter}={width}";

    /// <summary>The width that an address asks for; null for the picture itself.</summary>
    public static int? WidthIn(RequestTarget target) =>
        target.Query is [{ Name: Parameter, Value: { } text }]
        && int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var width)
        && Widths.Contains(width)
            ? width
            : null;

    /// <summary>The path of a smaller picture; that of the picture itself if there is none.</summary>
    public async Task<string> FindAsync(string file, int width, CancellationToken cancellation)
    {
        if (FileStatus.Of(file) is not { } now)
            return file;
        var kept = Path.Combine(folder, $"{NameOf(file, now)}-{width}");
        if (File.Exists(kept))
        {
            Touch(kept);
            return kept;
        }

        await _turns.WaitAsync(cancellation);
        try
        {
            return File.Exists(kept) || Make(file, width, kept) ? kept : file;
        }
        catch (Exception unmade) when (unmade is IOException or UnauthorizedAccessException)
        {
            return file;
        }
        finally
        {
            _turns.Release();
        }
    }

    public void Dispose() => _turns.Dispose();

    private static string NameOf(string file, FileStatus now) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{file}\n{now.Length}\n{now.ChangedAt}")))[..40];

    private bool Make(string file, int width, string kept)
    {
        if (Shrunk(PlainFile.ReadAllBytes(file), width) is not { } bytes)
            return false;
        Directory.CreateDirectory(folder, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
        PlainFile.Replace(kept, bytes, PlainFile.OwnerOnly);
        if (++_made % 100 == 1)
            Tidy();
        return true;
    }

    private static byte[]? Shrunk(byte[] bytes, int width)
    {
        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        if (codec is null || (long)codec.Info.Width * codec.Info.Height > MostPixels)
            return null;
        var isTurned = codec.EncodedOrigin >= SKEncodedOrigin.LeftTop;
        var fullWidth = isTurned ? codec.Info.Height : codec.Info.Width;
        if (fullWidth <= width)
            return null;

        // A JPEG picture is decoded at about the wanted size, which takes a fraction of the time.
        var scaled = codec.GetScaledDimensions(Math.Min(1f, 2f * width / fullWidth));
        using var read = new SKBitmap(new SKImageInfo(scaled.Width, scaled.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        if (codec.GetPixels(read.Info, read.GetPixels()) != SKCodecResult.Success)
            return null;
        using var upright = Upright(read, codec.EncodedOrigin);
        var height = Math.Max(1, (int)Math.Round((double)upright.Height * width / upright.Width));
        using var small = upright.Resize(
            new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var image = small is null ? null : SKImage.FromBitmap(small);
        using var encoded = image?.Encode(FormatFor(codec.EncodedFormat), Quality);
        return encoded?.ToArray();
    }

    private static SKEncodedImageFormat FormatFor(SKEncodedImageFormat format) =>
        format is SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp ? format : SKEncodedImageFormat.Png;

    /// <summary>The picture as a camera was held (Exif 2.3, orientation).</summary>
    private static SKBitmap Upright(SKBitmap read, SKEncodedOrigin origin)
    {
        if (origin == SKEncodedOrigin.TopLeft)
            return read.Copy();
        var (width, height) = (read.Width, read.Height);
        var isTurned = origin >= SKEncodedOrigin.LeftTop;
        var upright = new SKBitmap(new SKImageInfo(isTurned ? height : width, isTurned ? width : height, read.ColorType));
        using var canvas = new SKCanvas(upright);
        canvas.SetMatrix(
            origin switch
            {
                SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
                SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
                SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
                SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightTop => new SKMatrix(0, -1, height, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, height, -1, 0, width, 0, 0, 1),
                _ => new SKMatrix(0, 1, 0, -1, 0, width, 0, 0, 1),
            }
        );
        canvas.DrawBitmap(read, 0, 0, SKSamplingOptions.Default);
        return upright;
    }

    private static void Touch(string kept)
    {
        try
        {
            if (DateTime.UtcNow - File.GetLastAccessTimeUtc(kept) > TimeSpan.FromHours(1))
                File.SetLastAccessTimeUtc(kept, DateTime.UtcNow);
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            // It may go a little earlier than others.
        }
    }

    private void Tidy()
    {
        var files = new DirectoryInfo(folder).GetFiles().OrderByDescending(file => file.LastAccessTimeUtc).ToList();
        var sum = 0L;
        foreach (var file in files)
            if ((sum += file.Length) > MostKept)
                file.Delete();
    }
}
