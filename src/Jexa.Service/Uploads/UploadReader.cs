using System.Text;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Service.Media;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Uploads;

/// <summary>
/// Reads a form that was sent in parts (RFC 7578). Files go to the disk as they arrive, but only behind a contract of this
/// service for this visitor: nobody else can fill the disk.
/// </summary>
internal sealed class UploadReader(IFormSeal seal)
{
    public const string MediaType = "multipart/form-data";

    /// <summary>For the texts of a form, and for files that turn out to be too large, beside what the fields take.</summary>
    private const long Room = 64 * 1024 * 1024;

    private const int MostText = 1024 * 1024;

    public static bool IsAsked(HttpContext http) =>
        HttpMethods.IsPost(http.Request.Method)
        && MediaTypeHeaderValue.TryParse(http.Request.ContentType, out var type)
        && type.MediaType.Equals(MediaType, StringComparison.OrdinalIgnoreCase);

    /// <param name="form">The form of the page; null if the request does not mean one.</param>
    public async ValueTask<SentForm> ReadAsync(HttpContext http, FormPlan? form, string? visitor)
    {
        var uploads = form?.Entries.Where(entry => entry.Field.Upload is not null).ToList() ?? [];
        var boundary = MediaTypeHeaderValue.Parse(http.Request.ContentType).Boundary;
        if (form is null || uploads.Count == 0 || HeaderUtilities.RemoveQuotes(boundary) is not { Length: > 0 and <= 200 } mark)
            return SentForm.Failed(SentFault.OtherType);
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
            limit.MaxRequestBodySize = uploads.Sum(entry => entry.Field.Upload!.MostBytes) + Room;
        var taken = new List<SentUpload>();
        var pairs = new List<(string Name, string Text)>();
        try
        {
            var fault = await ReadAsync(http, mark.ToString(), uploads, visitor, pairs, taken);
            if (fault != SentFault.None)
                return Failed(fault, taken);
        }
        catch (BadHttpRequestException refused)
        {
            return Failed(
                refused.StatusCode == StatusCodes.Status413PayloadTooLarge ? SentFault.TooLarge : SentFault.Broken,
                taken
            );
        }
        catch (Exception broken) when (broken is IOException or InvalidDataException or OperationCanceledException)
        {
            return Failed(SentFault.Broken, taken);
        }

        var files = taken.ToDictionary(
            upload => upload.Entry.Name,
            upload => UploadStore.Keep(upload, name => pairs.Find(pair => pair.Name == name).Text)
        );
        return SentForm.OfParts(pairs, files);
    }

    private static SentForm Failed(SentFault fault, List<SentUpload> taken)
    {
        foreach (var upload in taken.Where(upload => upload.Path.Length > 0))
            IncomingFiles.Remove(upload.Path);
        return SentForm.Failed(fault);
    }

    private async ValueTask<SentFault> ReadAsync(
        HttpContext http,
        string boundary,
        List<FormEntry> uploads,
        string? visitor,
        List<(string Name, string Text)> pairs,
        List<SentUpload> taken
    )
    {
        var reader = new MultipartReader(boundary, http.Request.Body);
        var isTrusted = false;
        var length = 0;
        while (await reader.ReadNextSectionAsync(http.RequestAborted) is { } section)
        {
            if (
                !ContentDispositionHeaderValue.TryParse(section.ContentDisposition, out var disposition)
                || HeaderUtilities.RemoveQuotes(disposition.Name).Value is not { Length: > 0 } name
                || pairs.Count + taken.Count >= SentForm.MostPairs
            )
                return SentFault.Broken;
            if (disposition.FileName.HasValue)
            {
                var entry = uploads.Find(one => SentForm.File + one.Name == name);
                var sentName = HeaderUtilities.RemoveQuotes(disposition.FileName).Value ?? "";
                if (sentName.Length == 0 || entry is null || !isTrusted || taken.Exists(one => one.Entry == entry))
                    await section.Body.CopyToAsync(Stream.Null, http.RequestAborted);
                else
                    taken.Add(await UploadStore.TakeAsync(entry, section.Body, ShownName(sentName), http.RequestAborted));
                continue;
            }

            var text = await TextAsync(section.Body, MostText - length, http.RequestAborted);
            if (text is null)
                return SentFault.TooLarge;
            length += text.Length;
            if (Decoded(text) is not { } decoded || name.Contains('\0') || decoded.Contains('\0'))
                return SentFault.NotText;
            pairs.Add((name, decoded.Replace("\r\n", "\n")));
            isTrusted |=
                name == SentForm.Contract && FormContract.Open(seal, decoded) is { } contract && contract.Visitor == visitor;
        }

        return SentFault.None;
    }

    /// <summary>The last part of a path: some programs send all of it.</summary>
    private static string ShownName(string name) => name[(name.LastIndexOfAny(['/', '\\']) + 1)..];

    /// <summary>The bytes of a text; null if there are too many.</summary>
    private static async Task<byte[]?> TextAsync(Stream body, int most, CancellationToken cancellation)
    {
        using var text = new MemoryStream();
        var chunk = new byte[4096];
        int read;
        while ((read = await body.ReadAsync(chunk, cancellation)) > 0)
        {
            if (text.Length + read > most)
                return null;
            text.Write(chunk, 0, read);
        }

        return text.ToArray();
    }

    private static string? Decoded(byte[] bytes) =>
        System.Text.Unicode.Utf8.IsValid(bytes) ? Encoding.UTF8.GetString(bytes) : null;
}
