using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Service.Uploads;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Pages;

/// <summary>Reads the body of a request, and whether it comes from another origin, before the visit begins.</summary>
internal static class SentReader
{
    public static bool IsJson(HttpContext http) =>
        http.Request.ContentType is { } sent
        && MediaTypeHeaderValue.TryParse(sent, out var type)
        && (
            type.MediaType.Equals(Page.JsonType, StringComparison.OrdinalIgnoreCase)
            || type.MediaType.Equals(Page.PatchType, StringComparison.OrdinalIgnoreCase)
        );

    /// <summary>Whether a page of another origin sends the request. Browsers always say so; programs do not.</summary>
    public static bool IsForeign(HttpContext http)
    {
        var site = http.Request.Headers["Sec-Fetch-Site"].ToString();
        if (site is not ("" or "same-origin" or "none"))
            return true;
        var origin = http.Request.Headers.Origin.ToString();
        if (origin.Length == 0)
            return false;
        var slashes = origin.IndexOf("://", StringComparison.Ordinal);
        return slashes < 0
            || !origin.AsSpan(slashes + 3).Equals(http.Request.Headers.Host.ToString(), StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>Reads the whole body as a form or as JSON. What cannot be read is a fault, never an exception.</summary>
    /// <param name="form">The form that is sent; null if the page has none.</param>
    public static async ValueTask<SentForm> ReadAsync(HttpContext http, FormPlan? form, UploadReader uploads, string? visitor)
    {
        if (UploadReader.IsAsked(http))
            return await uploads.ReadAsync(http, form, visitor);
        var sent = await ReadAsync(http, mayHoldFiles: JsonUploads.IsAsked(form));
        return form is null || sent.Json is null ? sent : await JsonUploads.TakeAsync(sent, form, http.RequestAborted);
    }

    private static async ValueTask<SentForm> ReadAsync(HttpContext http, bool mayHoldFiles)
    {
        if (
            HttpMethods.IsGet(http.Request.Method)
            || HttpMethods.IsHead(http.Request.Method)
            || HttpMethods.IsDelete(http.Request.Method)
        )
            return SentForm.None;
        var isJson = IsJson(http);
        if (isJson && mayHoldFiles && http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
            limit.MaxRequestBodySize = JsonUploads.MostBody;
        if (
            !MediaTypeHeaderValue.TryParse(http.Request.ContentType, out var type)
            || (HttpMethods.IsPatch(http.Request.Method) && !isJson)
            || (!isJson && !type.MediaType.Equals(Page.FormType, StringComparison.OrdinalIgnoreCase))
            || (type.Charset.HasValue && !type.Charset.Equals("utf-8", StringComparison.OrdinalIgnoreCase))
            || http.Request.Headers.ContentEncoding.Count > 0
        )
            return SentForm.Failed(SentFault.OtherType);
        using var body = new Utf8Buffer(4096);
        try
        {
            int read;
            do
            {
                var room = ((System.Buffers.IBufferWriter<byte>)body).GetMemory(4096);
                read = await http.Request.Body.ReadAsync(room, http.RequestAborted);
                body.Advance(read);
            } while (read > 0);
        }
        catch (BadHttpRequestException refused)
        {
            return SentForm.Failed(
                refused.StatusCode == StatusCodes.Status413PayloadTooLarge ? SentFault.TooLarge : SentFault.Broken
            );
        }
        catch (IOException)
        {
            return SentForm.Failed(SentFault.Broken);
        }

        return isJson ? SentForm.OfJson(body.Written) : SentForm.OfForm(body.Written);
    }
}
