using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Jexa.Core.Sources;

namespace Jexa.Sources.Http;

/// <summary>
/// The part of an API's answer for traces, findings and logs: its beginning, without secret fields and without values from the
/// environment. If an answer is not JSON, nobody can tell what is secret in it, so only its size is shown.
/// </summary>
internal sealed class ToldAnswer(ApiSettings api)
{
    private const int MostCharacters = 1024;
    private const int LargestRead = 1024 * 1024;
    private const string Secret = "(secret)";

    /// <summary>Shorter values from the environment occur in many texts by chance.</summary>
    private const int ShortestSecret = 4;

    public string Of(ReadOnlyMemory<byte> body)
    {
        if (body.Length == 0)
            return "nothing";
        var size = $"{body.Length:N0} bytes";
        if (body.Length > LargestRead)
            return size;
        try
        {
            var whole = JsonNode.Parse(body.Span);
            if (whole is JsonObject or JsonArray)
                Withhold(whole);
            var text = Masked(whole?.ToJsonString(ToldOptions) ?? "null");
            return text.Length <= MostCharacters ? text : text[..MostCharacters] + "…";
        }
        catch (Exception unreadable) when (unreadable is JsonException or ArgumentException)
        {
            return size;
        }
    }

    private static readonly JsonSerializerOptions ToldOptions = new()
    {
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private string Masked(string text)
    {
        foreach (var secret in api.Secrets.Where(secret => secret.Length >= ShortestSecret))
        {
            text = text.Replace(secret, Secret, StringComparison.OrdinalIgnoreCase);
            text = text.Replace(
                JsonEncodedText.Encode(secret, ToldOptions.Encoder).Value,
                Secret,
                StringComparison.OrdinalIgnoreCase
            );
            text = text.Replace(Convert.ToBase64String(Encoding.UTF8.GetBytes(secret)), Secret, StringComparison.Ordinal);
            text = text.Replace(Uri.EscapeDataString(secret), Secret, StringComparison.OrdinalIgnoreCase);
        }

        return text;
    }

    private void Withhold(JsonNode? node)
    {
        switch (node)
        {
            case JsonObject members:
                foreach (var (name, value) in members.ToList())
                {
                    if (api.SecretFields.Contains(name))
                        members[name] = Secret;
                    else
                        Withhold(value);
                }

                break;
            case JsonArray items:
                foreach (var item in items)
                    Withhold(item);
                break;
        }
    }
}
