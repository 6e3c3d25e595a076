using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service;

/// <summary>The token of the state folder: whoever has it may see traces (RFC 6750, in the Authorization header only).</summary>
internal sealed class BearerToken(string value)
{
    private const string Scheme = "Bearer ";

    private readonly byte[] _bytes = Encoding.UTF8.GetBytes(value);

    public string Value { get; } = value;

    public bool IsShownBy(HttpContext http)
    {
        var header = http.Request.Headers.Authorization.ToString();
        return header.StartsWith(Scheme, StringComparison.OrdinalIgnoreCase)
            && CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(header[Scheme.Length..].Trim()), _bytes);
    }
}
