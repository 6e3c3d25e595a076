using System.Text;
using System.Text.Json;
using System.Text.Unicode;
using Jexa.Core.Addresses;

namespace Jexa.Core.Edits;

/// <summary>The body that was sent to a page: a form or JSON, never both.</summary>
/// <param name="Pairs">In their order. A name may occur several times.</param>
/// <param name="Json">The fields of a JSON body; null for a form.</param>
public sealed record SentForm(SentFault Fault, IReadOnlyList<(string Name, string Text)> Pairs, JsonElement? Json, string Digest)
{
    /// <summary>The hidden field with the contract.</summary>
    public const string Contract = "_jexa";

    /// <summary>The name of buttons that do something else than save.</summary>
    public const string Ask = "_jexa.ask";

    /// <summary>Comes before the name of a field that two people changed: which value stays.</summary>
    public const string Choose = "_jexa.choose.";

    /// <summary>Comes before the name of a foreign key: the search text for its record.</summary>
    public const string Find = "_jexa.find.";

    /// <summary>Comes before the name of a foreign key of several columns that is chosen as one.</summary>
    public const string Tied = "_jexa.record.";

    /// <summary>Comes before the name of a field: its file.</summary>
    public const string File = "_jexa.file.";

    /// <summary>Comes before the name of a field with a file: there is to be none.</summary>
    public const string Drop = "_jexa.drop.";

    /// <summary>The last field of every form. A form without it was not received completely.</summary>
    public const string End = "_jexa.end";

    /// <summary>The value that leaves a field unchanged.</summary>
    public const string AsItIs = "_jexa.same";

    /// <summary>The most fields of a form.</summary>
    public const int MostPairs = 1000;
    private const int MostDepth = 8;

    /// <summary>The files that were sent, by field.</summary>
    public IReadOnlyDictionary<string, SentFile> Files { get; init; } = new Dictionary<string, SentFile>();

    /// <summary>A form of which nothing was sent.</summary>
    public static SentForm None { get; } = new(SentFault.None, [], null, "");

    /// <summary>A form that cannot be read.</summary>
    public static SentForm Failed(SentFault fault) => new(fault, [], null, "");

    /// <summary>
    /// Reads a body of <c>application/x-www-form-urlencoded</c> strictly: if any byte is wrong, all is refused.
    /// </summary>
    public static SentForm OfForm(ReadOnlySpan<byte> body)
    {
        var pairs = new List<(string, string)>();
        if (!Ascii.IsValid(body))
            return Failed(SentFault.NotText);
        var text = Encoding.ASCII.GetString(body).AsSpan();
        foreach (var range in text.Split('&'))
        {
            var pair = text[range];
            if (pair.IsEmpty)
                continue;
            if (pairs.Count == MostPairs)
                return Failed(SentFault.Broken);
            var equals = pair.IndexOf('=');
            var name = PercentCoding.Decode(equals < 0 ? pair : pair[..equals], plusIsSpace: true);
            var value = equals < 0 ? "" : PercentCoding.Decode(pair[(equals + 1)..], plusIsSpace: true);
            if (name is null || value is null || name.Contains('\0') || value.Contains('\0'))
                return Failed(SentFault.NotText);
            pairs.Add((name, value.Replace("\r\n", "\n")));
        }

        return pairs.Exists(pair => pair.Item1 == End)
            ? new SentForm(SentFault.None, pairs, null, DigestOf(pairs))
            : Failed(SentFault.Broken);
    }

    /// <summary>What was sent in parts (RFC 7578): texts, and files that wait.</summary>
    public static SentForm OfParts(List<(string Name, string Text)> pairs, IReadOnlyDictionary<string, SentFile> files)
    {
        var all = pairs.Concat(files.Select(file => (File + file.Key, file.Value.Digest))).ToList();
        return pairs.Exists(pair => pair.Name == End)
            ? new SentForm(SentFault.None, pairs, null, DigestOf(all)) { Files = files }
            : Failed(SentFault.Broken);
    }

    /// <summary>Reads a JSON object (RFC 8259). No name may occur twice.</summary>
    public static SentForm OfJson(ReadOnlySpan<byte> body)
    {
        if (!Utf8.IsValid(body))
            return Failed(SentFault.NotText);
        try
        {
            var reader = new Utf8JsonReader(body, new JsonReaderOptions { MaxDepth = MostDepth });
            while (reader.Read())
                if (reader.TokenType is JsonTokenType.String or JsonTokenType.PropertyName)
                    _ = reader.GetString();
            using var document = JsonDocument.Parse(
                body.ToArray(),
                new JsonDocumentOptions { MaxDepth = MostDepth, AllowDuplicateProperties = false }
            );
            return document.RootElement.ValueKind == JsonValueKind.Object
                ? new SentForm(
                    SentFault.None,
                    [],
                    document.RootElement.Clone(),
                    Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(body))
                )
                : Failed(SentFault.Broken);
        }
        catch (InvalidOperationException)
        {
            // A text has half of a surrogate pair: UTF-8 cannot represent it.
            return Failed(SentFault.NotText);
        }
        catch (JsonException)
        {
            return Failed(SentFault.Broken);
        }
    }

    /// <summary>The only text of a name; null if there is none, or more than one.</summary>
    public string? One(string name)
    {
        string? found = null;
        foreach (var pair in Pairs)
        {
            if (pair.Name != name)
                continue;
            if (found is not null)
                return null;
            found = pair.Text;
        }

        return found;
    }

    /// <summary>How many times a field of this name was sent.</summary>
    public int Count(string name) => Pairs.Count(pair => pair.Name == name);

    private static string DigestOf(List<(string Name, string Text)> pairs)
    {
        using var digest = System.Security.Cryptography.IncrementalHash.CreateHash(
            System.Security.Cryptography.HashAlgorithmName.SHA256
        );
        foreach (var (name, text) in pairs.Where(pair => pair.Name != Contract))
        {
            digest.AppendData(Encoding.UTF8.GetBytes($"{name.Length}:{name}{text.Length}:{text}"));
        }

        return Convert.ToHexStringLower(digest.GetHashAndReset());
    }
}
