using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>The answer to a visitor: a status with a view, or a redirect. Dispose it after writing: it holds lent rows.</summary>
/// <param name="Location">Relative and ASCII, never with two slashes at the beginning; null if this is not a redirect.</param>
/// <param name="Allow">The allowed methods, for a 405.</param>
/// <param name="RetryAfterSeconds">When to try again, for a 503.</param>
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
    internal RowLoans? Rows { get; set; }

    /// <summary>The version of the record in the answer (a strong entity tag); null if the answer is not a record.</summary>
    public string? Version { get; init; }

    /// <summary>A new secret for the visitor's browser; null if it has one, or needs none.</summary>
    public string? NewVisitor { get; init; }

    /// <summary>A message that the next page shows once.</summary>
    public string? Say { get; init; }

    /// <summary>Whether caches must not keep the answer: it has a form.</summary>
    public bool IsForOnce { get; init; }

    /// <summary>The media types that the page accepts, for a request with another one.</summary>
    public string? Accepts { get; init; }

    /// <summary>An answer in words.</summary>
    internal static Answer Of(Outcome outcome, MessageView message) => new(outcome, message.Status, message);

    /// <summary>Gives the rows' memory back.</summary>
    public void Dispose() => Rows?.Dispose();
}
