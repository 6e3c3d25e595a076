using System.Text.Json;
using Jexa.Core.Endpoints;

namespace Jexa.Core.Sources;

/// <summary>How an API is called. Two of the same content are the same.</summary>
/// <param name="headers">Sent with every request; may hold secrets, never shown.</param>
/// <param name="parameters">Query parameters of every request; may hold secrets, never shown.</param>
/// <param name="linkLocal">Whether addresses of the link alone (169.254.0.0/16, fe80::/10) may be called.</param>
public sealed class ApiSettings(
    IReadOnlyList<(string Name, string Value)> headers,
    IReadOnlyList<(string Name, string Value)> parameters,
    bool linkLocal,
    IReadOnlyList<ApiEndpoint> endpoints
) : IEquatable<ApiSettings>
{
    /// <summary>The proxy that the API is called through; null for none, whatever the environment says.</summary>
    public Uri? Proxy { get; init; }

    /// <summary>The fields that no trace, finding or log may tell, by name, wherever they stand in an answer.</summary>
    public IReadOnlySet<string> SecretFields { get; init; } = new HashSet<string>();

    /// <summary>What was filled in from the environment: never told, also if the API says it back.</summary>
    public IReadOnlyList<string> Secrets { get; init; } = [];

    public IReadOnlyList<(string Name, string Value)> Headers => headers;

    public IReadOnlyList<(string Name, string Value)> Parameters => parameters;

    public bool LinkLocal => linkLocal;

    public IReadOnlyList<ApiEndpoint> Endpoints => endpoints;

    public bool Equals(ApiSettings? other) => other is not null && other.Content() == Content();

    public override bool Equals(object? obj) => Equals(obj as ApiSettings);

    public override int GetHashCode() => Content().GetHashCode(StringComparison.Ordinal);

    /// <summary>Everything by which two are told apart.</summary>
    private string Content() =>
        JsonSerializer.Serialize(
            new
            {
                headers = headers.Select(header => new[] { header.Name, header.Value }),
                parameters = parameters.Select(parameter => new[] { parameter.Name, parameter.Value }),
                linkLocal,
                endpoints,
                proxy = Proxy?.OriginalString,
                fields = SecretFields.Order(StringComparer.Ordinal),
                secrets = Secrets,
            }
        );

    /// <summary>Never prints what it holds.</summary>
    public override string ToString() => "API";
}
