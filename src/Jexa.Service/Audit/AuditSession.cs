using System.Net;

namespace Jexa.Service.Audit;

/// <summary>Somebody who goes from one page to another and keeps the cookies.</summary>
/// <param name="start">Where they begin: it is named as the page they come from.</param>
internal sealed class AuditSession(Uri start)
{
    private readonly CookieContainer _cookies = new();
    private bool _hasBegun;

    public void AddTo(HttpRequestMessage request)
    {
        if (_cookies.GetCookieHeader(request.RequestUri!) is { Length: > 0 } cookies)
            request.Headers.TryAddWithoutValidation("Cookie", cookies);
        if (_hasBegun)
            request.Headers.TryAddWithoutValidation("Referer", start.AbsoluteUri);
        _hasBegun = true;
    }

    public void Take(Uri address, HttpResponseMessage answer)
    {
        if (!answer.Headers.TryGetValues("Set-Cookie", out var written))
            return;
        foreach (var cookie in written)
        {
            try
            {
                _cookies.SetCookies(address, cookie);
            }
            catch (CookieException)
            {
                // A cookie that no browser would take either.
            }
        }
    }
}
