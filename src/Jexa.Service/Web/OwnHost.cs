using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Web;

/// <summary>
/// The Host names that a door answers to, and no others, so that no foreign name can be pointed at it. They are known with the
/// door's port, at its first request.
/// </summary>
/// <param name="others">Further names.</param>
/// <param name="byAddress">
/// Whether it also answers to the IP address of the request. That is not a name, so nobody can point one at it.
/// </param>
internal sealed class OwnHost(IReadOnlyList<string> others, bool byAddress = false)
{
    private string[] _names = [];

    /// <summary>Whether a request names this door.</summary>
    public bool IsNamedBy(HttpContext http)
    {
        var host = http.Request.Headers.Host.ToString();
        var names = _names;
        if (names.Length == 0)
            _names = names = [.. Names(http.Connection.LocalPort), .. others];
        foreach (var name in names)
            if (host == name || host.Equals(name, StringComparison.OrdinalIgnoreCase))
                return true;
        return byAddress && IsAddress(http, host);
    }

    private static bool IsAddress(HttpContext http, string host)
    {
        if (http.Connection.LocalIpAddress is not { } address)
            return false;
        if (address.IsIPv4MappedToIPv6)
            address = address.MapToIPv4();
        var own = new System.Net.IPEndPoint(address, http.Connection.LocalPort);
        return host == own.ToString() || (own.Port == 80 && host == own.ToString()[..^":80".Length]);
    }

    private static string[] Names(int port) =>
        port == 80 ? ["127.0.0.1:80", "localhost:80", "127.0.0.1", "localhost"] : [$"127.0.0.1:{port}", $"localhost:{port}"];
}
