using Jexa.Core.Addresses;
using Jexa.Core.Edits;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Who visits. Everybody is anonymous until there is sign-in.</summary>
public abstract record Principal
{
    private Principal() { }

    public sealed record Anonymous : Principal
    {
        public static Anonymous Value { get; } = new();
    }
}

/// <summary>One visit's question.</summary>
/// <param name="Target">The raw target, read once.</param>
/// <param name="WantsJson">A program asks, not a person.</param>
public sealed record VisitRequest(string Method, RequestTarget Target, bool WantsJson, Principal Principal)
{
    /// <summary>Whether the method only reads (RFC 9110 section 9.2.1).</summary>
    public bool IsSafe => Method is "GET" or "HEAD";

    /// <summary>What was sent; nothing for a method that only reads.</summary>
    public SentForm Sent { get; init; } = SentForm.None;

    /// <summary>It comes from a page of another origin.</summary>
    public bool IsForeign { get; init; }

    /// <summary>The secret that this visitor's browser keeps; null where it has none yet.</summary>
    public string? Visitor { get; init; }

    /// <summary>The visitor changed something a moment ago, and is to see it.</summary>
    public bool HasWritten { get; init; }

    /// <summary>The version that a change is for (If-Match); null where it does not say.</summary>
    public string? IfMatch { get; init; }
}

/// <summary>
/// What the visitor gets: a status with a view, or a redirect. Dispose it once it is written: the rows it shows are lent.
/// </summary>
/// <param name="Location">Relative and ASCII, never beginning with two slashes; null where this is no redirect.</param>
/// <param name="Allow">The methods of a 405.</param>
/// <param name="RetryAfterSeconds">When a 503 may be tried again.</param>
public sealed record Answer(
    Outcome Outcome,
    int Status,
    PageView? View,
    string? Location = null,
    string? Allow = null,
    int? RetryAfterSeconds = null
) : IDisposable
{
    /// <summary>The rows it shows.</summary>
    internal RowLoans? Rows { get; init; }

    /// <summary>
    /// The version of the record that is told (a strong entity tag); null where the answer is no record of its own.
    /// </summary>
    public string? Version { get; init; }

    /// <summary>A new secret for the visitor's browser to keep; null where it has one, or needs none.</summary>
    public string? NewVisitor { get; init; }

    /// <summary>What the page that this leads to says once.</summary>
    public string? Say { get; init; }

    /// <summary>Nobody may keep the answer: it holds a form.</summary>
    public bool IsForOnce { get; init; }

    /// <summary>The media types that the page takes, for a body of another one.</summary>
    public string? Accepts { get; init; }

    /// <summary>An answer in words.</summary>
    internal static Answer Of(Outcome outcome, MessageView message) => new(outcome, message.Status, message);

    public void Dispose() => Rows?.Dispose();
}
