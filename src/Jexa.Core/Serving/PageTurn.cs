using System.Net;

namespace Jexa.Core.Serving;

/// <summary>A visit's turn among those of its page and source. Dispose it when the visit has ended.</summary>
/// <param name="share">Null for a visit that needs no turn.</param>
internal readonly struct PageTurn(PageShare? share, bool isSlow, IPAddress? client, long began) : IDisposable
{
    public void Dispose() => share?.Leave(isSlow, client, began);
}
