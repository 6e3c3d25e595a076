using System.Security.Cryptography;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>What one visit to a page with a form has at hand.</summary>
internal sealed class ChangeContext(
    Site site,
    VisitRequest request,
    VisitTrace trace,
    RowLoans loans,
    CancellationToken cancellation
)
{
    public Site Site { get; } = site;

    public VisitRequest Request { get; } = request;

    public VisitTrace Trace { get; } = trace;

    public RowLoans Loans { get; } = loans;

    public CancellationToken Cancellation { get; } = cancellation;

    /// <summary>The secret that forms of this visitor are made for.</summary>
    public string Visitor { get; } = request.Visitor ?? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    /// <summary>The secret, where the visitor's browser does not keep it yet.</summary>
    public string? NewVisitor => Request.Visitor is null && !Request.WantsJson ? Visitor : null;

    /// <summary>An answer with a form in it.</summary>
    public Answer Form(Outcome outcome, int status, Views.PageView view) =>
        new(outcome, status, view) { NewVisitor = NewVisitor, IsForOnce = true };
}
