using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>
/// What the visitor gets: a status with a view, or a redirect. Dispose it once it is written: the rows it shows are lent.
/// </summary>
/// <param name="Location">Relative and ASCII, never beginning with two slashes; null if this is no redirect.</param>
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
    internal RowLoans? Rows { get; set; }

    /// <summary>
    /// The version of the record that is told (a strong entity tag); null if the answer is no record of its own.
    /// </summary>
    public string? Version { get; init; }

    /// <summary>A new secret for the visitor's browser to keep; null if it has one, or needs none.</summary>
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
