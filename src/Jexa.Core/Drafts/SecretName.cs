using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>Tells from a column's name whether it holds a secret. Whole words count, the last one most.</summary>
internal static class SecretName
{
    private static readonly string[] Secrets =
    [
        "password",
        "passwd",
        "pwd",
        "secret",
        "token",
        "psk",
        "passphrase",
        "community",
        "apikey",
        "privatekey",
        "credential",
        "credentials",
    ];

    /// <summary>Secret only as a part of a secret (<c>password_hash</c>), or as the whole name.</summary>
    private static readonly string[] OfSecrets = ["hash", "salt", "digest", "crypt", "enc", "encrypted"];

    /// <summary>Keys that are secret: <c>api_key</c>, <c>private_key</c>.</summary>
    private static readonly string[] SecretKeys =
    [
        "api",
        "private",
        "secret",
        "access",
        "signing",
        "encryption",
        "preshared",
        "shared",
    ];

    /// <summary>Words that end like an abbreviation for a password and mean something else.</summary>
    private static readonly string[] Ways = ["bypass", "compass", "overpass", "underpass", "trespass", "surpass"];

    /// <summary>Names with these beginnings are questions or orders: <c>must_change_password</c>.</summary>
    private static readonly string[] Questions =
    [
        "must",
        "is",
        "has",
        "can",
        "allow",
        "use",
        "require",
        "requires",
        "needs",
        "force",
        "enable",
        "enabled",
        "change",
        "reset",
        "no",
        "send",
    ];

    public static bool Is(ColumnSchema column)
    {
        if (column.Type is not (FieldType.Text or FieldType.Bytes or FieldType.Any or FieldType.Uuid))
            return false;
        string[] words =
        [
            .. Labels
                .OfRecord(column.Name)
                .Split(' ')
                .Select(word => word.ToLowerInvariant().TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9')),
        ];
        if (words.Length > 1 && Questions.Contains(words[0]))
            return false;
        var last = words[^1];
        return Secrets.Contains(last)
            || (last.EndsWith("pass", StringComparison.Ordinal) && !Ways.Contains(last))
            || last.EndsWith("passwd", StringComparison.Ordinal)
            || last.EndsWith("password", StringComparison.Ordinal)
            || (last == "key" && words.Length > 1 && SecretKeys.Contains(words[^2]))
            || (
                OfSecrets.Contains(last)
                && (words.Length == 1 || words[..^1].Any(word => Secrets.Contains(word) || word is "pass" or "pw"))
            );
    }
}
