using Jexa.Core.Addresses;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Who visits. Everybody is anonymous until there is sign-in.</summary>
public abstract record Principal
{
    private Principal()
    {
    }

    public sealed record Anonymous : Principal
    {
        public static Anonymous Value { get; } = new();
    }
}

/// <summary>One visit's question.</summary>
/// <param name="Target">The raw target, read once.</param>
/// <param name="WantsJson">A program asks, not a person.</param>
public sealed record VisitRequest(string Method, RequestTarget Target, bool WantsJson, Principal Principal);

/// <summary>
/// What the visitor gets: a status with a view, or a redirect. Dispose it once it is written: the rows it shows are lent.
/// </summary>
/// <param name="Location">Relative and ASCII, never beginning with two slashes; null where this is no redirect.</param>
/// <param name="Allow">The methods of a 405.</param>
/// <param name="RetryAfterSeconds">When a 503 may be tried again.</param>
public sealed record Answer(
    Outcome Outcome, int Status, PageView? View, string? Location = null, string? Allow = null, int? RetryAfterSeconds = null) : IDisposable
{
    internal Action? Return { get; init; }

    /// <summary>An answer in words.</summary>
    internal static Answer Say(Outcome outcome, MessageView message) => new(outcome, message.Status, message);

    public void Dispose() => Return?.Invoke();
}
