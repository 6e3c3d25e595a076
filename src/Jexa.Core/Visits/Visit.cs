using System.Security.Cryptography;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>One visit to a page: what is asked of which site, and what the visit has at hand until it is answered.</summary>
/// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
/// <param name="rows">The blocks that its queries fill.</param>
internal sealed class Visit(
    Site site,
    VisitRequest request,
    PageHead asked,
    VisitTrace trace,
    RowLoans rows,
    CancellationToken cancellation
)
{
    private string? _visitor;

    public Site Site => site;

    public VisitRequest Request => request;

    public RequestTarget Target => request.Target;

    public PageHead Asked => asked;

    public VisitTrace Trace => trace;

    public RowLoans Rows => rows;

    public CancellationToken Cancellation => cancellation;

    /// <summary>The secret that forms of this visitor are made for.</summary>
    public string Visitor => _visitor ??= request.Visitor ?? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    /// <summary>The secret if the visitor's browser does not keep it yet.</summary>
    public string? NewVisitor => request.Visitor is null && request.Reader == Reader.Person ? Visitor : null;

    /// <summary>An answer with a form in it.</summary>
    public Answer Form(Outcome outcome, int status, PageView view) =>
        new(outcome, status, view) { NewVisitor = NewVisitor, IsForOnce = true };
}
