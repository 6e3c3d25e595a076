using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Files;
using Jexa.Service.State;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Web;

/// <summary>
/// The token of the state folder. Whoever has it may see traces (RFC 6750, in the Authorization header only). Several processes
/// may share the folder: each notices at once if another has made a new token.
/// </summary>
internal sealed class BearerToken(StateFolder state, string value)
{
    private const string Scheme = "Bearer ";

    private readonly Lock _lock = new();
    private FileStatus? _seen = FileStatus.Of(state.TokenFile);
    private byte[] _bytes = Encoding.UTF8.GetBytes(value);

    public string Value => Encoding.UTF8.GetString(Current());

    public bool IsShownBy(HttpContext http)
    {
        var header = http.Request.Headers.Authorization.ToString();
        return header.StartsWith(Scheme, StringComparison.OrdinalIgnoreCase)
            && CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(header[Scheme.Length..].Trim()), Current());
    }

    /// <summary>Makes a new token. The old one is invalid from then on.</summary>
    public void Renew()
    {
        lock (_lock)
        {
            _bytes = Encoding.UTF8.GetBytes(state.RenewToken());
            _seen = FileStatus.Of(state.TokenFile);
        }
    }

    private byte[] Current()
    {
        lock (_lock)
        {
            // If the file is missing or empty, the known token stays valid.
            if (FileStatus.Of(state.TokenFile) is not { } now || now == _seen)
                return _bytes;
            if (state.ReadToken() is { Length: > 0 } token)
                _bytes = Encoding.UTF8.GetBytes(token);
            _seen = now;
            return _bytes;
        }
    }
}
