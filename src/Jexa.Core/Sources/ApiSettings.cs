using System.Text.Json;
using Jexa.Core.Endpoints;

namespace Jexa.Core.Sources;

/// <summary>How an API is called. Two settings with the same content are equal.</summary>
/// <param name="headers">Sent with every request; may hold secrets, never shown.</param>
/// <param name="parameters">Query parameters of every request; may hold secrets, never shown.</param>
/// <param name="linkLocal">Whether link-local addresses (169.254.0.0/16, fe80::/10) may be called.</param>
public sealed class ApiSettings(
    IReadOnlyList<(string Name, string Value)> headers,
    IReadOnlyList<(string Name, string Value)> parameters,
    bool linkLocal,
    IReadOnlyList<ApiEndpoint> endpoints
) : IEquatable<ApiSettings>
{
    /// <summary>The proxy to call the API through; null for none. Environment variables for proxies are ignored.</summary>
    public Uri? Proxy { get; init; }

    /// <summary>The names of fields that traces, findings and logs must not contain, wherever they occur in an answer.</summary>
    public IReadOnlySet<string> SecretFields { get; init; } = new HashSet<string>();

    /// <summary>Values taken from the environment. They are never shown, even if the API returns them.</summary>
    public IReadOnlyList<string> Secrets { get; init; } = [];

    /// <summary>The headers sent with each call. They may be secret.</summary>
    public IReadOnlyList<(string Name, string Value)> Headers => headers;

    /// <summary>The query parameters sent with each call. They may be secret.</summary>
    public IReadOnlyList<(string Name, string Value)> Parameters => parameters;

    /// <summary>Whether the API may be at a link-local address.</summary>
    public bool LinkLocal => linkLocal;

    /// <summary>The endpoints, by record.</summary>
    public IReadOnlyList<ApiEndpoint> Endpoints => endpoints;

    /// <summary>Whether two settings lead to the same calls.</summary>
    public bool Equals(ApiSettings? other) => other is not null && other.Content() == Content();

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as ApiSettings);

    /// <inheritdoc/>
    public override int GetHashCode() => Content().GetHashCode(StringComparison.Ordinal);

    /// <summary>Everything that makes two settings different.</summary>
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

    /// <summary>Never prints the content.</summary>
    public override string ToString() => "API";
}
