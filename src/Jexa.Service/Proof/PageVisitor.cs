using System.Net;

namespace Jexa.Service.Proof;

/// <summary>Makes the client that asks pages as a new visitor: without cookies, and not going where an answer leads.</summary>
public static class PageVisitor
{
    /// <param name="url">The address of the pages.</param>
    public static HttpClient At(string url) =>
        new(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseProxy = false,
                UseCookies = false,
                AutomaticDecompression = DecompressionMethods.None,
                ConnectTimeout = TimeSpan.FromSeconds(10),
            }
        )
        {
            BaseAddress = new Uri(url.EndsWith('/') ? url : url + "/"),
            Timeout = TimeSpan.FromSeconds(60),
        };
}
