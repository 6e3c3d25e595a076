namespace Jexa.Service.Audit;

/// <summary>Asks somebody's application for pages: plainly, or as a browser draws them.</summary>
internal interface IPageAsker
{
    /// <summary>The answer at an address, asked for by somebody who was never there.</summary>
    Task<AuditAnswer> GetAsync(Uri address, CancellationToken cancellation);

    /// <summary>The answer at an address for somebody who was at another one before, with the cookies from there.</summary>
    Task<AuditAnswer> GetAfterAsync(Uri before, Uri address, CancellationToken cancellation);
}
