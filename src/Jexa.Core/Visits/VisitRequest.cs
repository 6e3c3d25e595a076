using Jexa.Core.Addresses;
using Jexa.Core.Edits;

namespace Jexa.Core.Visits;

/// <summary>The request of a visit.</summary>
/// <param name="Target">The raw target, read once.</param>
/// <param name="Reader">Who reads the answer.</param>
public sealed record VisitRequest(string Method, RequestTarget Target, Reader Reader, Principal Principal)
{
    /// <summary>Whether the method only reads (RFC 9110 section 9.2.1).</summary>
    public bool IsSafe => Method is "GET" or "HEAD";

    /// <summary>The body; nothing for a method that only reads.</summary>
    public SentForm Sent { get; init; } = SentForm.None;

    /// <summary>Whether it comes from a page of another origin.</summary>
    public bool IsForeign { get; init; }

    /// <summary>The secret in this visitor's cookie; null if there is none yet.</summary>
    public string? Visitor { get; init; }

    /// <summary>Whether the visitor changed something a moment ago, and must see it.</summary>
    public bool HasWritten { get; init; }

    /// <summary>
    /// Whether lists and related blocks are shown as if they had no records. Only previews ask for this.
    /// </summary>
    public bool ShowsNoRows { get; init; }

    /// <summary>The version that a change is for (If-Match); null if the request does not say.</summary>
    public string? IfMatch { get; init; }
}
