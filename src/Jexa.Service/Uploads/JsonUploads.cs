using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Sites;

namespace Jexa.Service.Uploads;

/// <summary>
/// Files within JSON: instead of a name a program sends <c>{ "name": "a.png", "content": "…" }</c>, the content as base64 (RFC
/// 4648, section 4).
/// </summary>
internal static class JsonUploads
{
    /// <summary>The largest body with files, in bytes. A larger file is sent in parts.</summary>
    public const long MostBody = 32 * 1024 * 1024;

    public static bool IsAsked(FormPlan? form) => form?.Entries.Any(entry => entry.Field.Upload is not null) == true;

    public static async Task<SentForm> TakeAsync(SentForm sent, FormPlan form, CancellationToken cancellation)
    {
        if (
            sent.Json is not { ValueKind: JsonValueKind.Object } body
            || !body.TryGetProperty("fields", out var fields)
            || fields.ValueKind != JsonValueKind.Object
        )
            return sent;
        var files = new Dictionary<string, SentFile>();
        foreach (var entry in form.Entries)
            if (
                entry.Field.Upload is not null
                && fields.TryGetProperty(entry.Name, out var value)
                && value.ValueKind == JsonValueKind.Object
            )
                files[entry.Name] = await TakeAsync(entry, value, fields, cancellation);
        return files.Count == 0 ? sent : sent with { Files = files };
    }

    private static async Task<SentFile> TakeAsync(
        FormEntry entry,
        JsonElement value,
        JsonElement fields,
        CancellationToken cancellation
    )
    {
        if (
            !value.TryGetProperty("name", out var name)
            || name.ValueKind != JsonValueKind.String
            || !value.TryGetProperty("content", out var content)
            || content.ValueKind != JsonValueKind.String
            || !content.TryGetBytesFromBase64(out var bytes)
        )
            return new SentFile("", "", "This must be a name, or a file: { \"name\": \"a.png\", \"content\": \"BASE64\" }.");
        var taken = await UploadStore.TakeAsync(entry, new MemoryStream(bytes), name.GetString()!, cancellation);
        return UploadStore.Keep(taken, other =>
            fields.TryGetProperty(other, out var text) && text.ValueKind == JsonValueKind.String ? text.GetString() : null
        );
    }
}
