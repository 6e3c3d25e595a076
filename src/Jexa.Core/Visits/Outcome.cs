using Jexa.Core.Keys;
using Jexa.Core.Sources;

namespace Jexa.Core.Visits;

/// <summary>How a visit ended: exactly one of these.</summary>
public abstract record Outcome
{
    private Outcome(OutcomeKind kind) => Kind = kind;

    /// <summary>Its line in the table of outcomes.</summary>
    public OutcomeKind Kind { get; }

    /// <summary>The outcome's word in traces, logs and the developer's eyes.</summary>
    public string Word => Kind.Word;

    /// <summary>The outcome's word in a visitor's eyes: a hidden record is an unknown one.</summary>
    public string PublicWord => Kind.PublicWord;

    /// <summary>Whether the visitor got what the address stands for, if need be under its canonical spelling.</summary>
    public bool IsGood => Kind.Side == OutcomeSide.Good;

    /// <inheritdoc/>
    public sealed override string ToString() => Word;

    /// <summary>A list is shown.</summary>
    public sealed record Listed() : Outcome(OutcomeKind.Listed);

    /// <summary>The record is shown.</summary>
    public sealed record Found() : Outcome(OutcomeKind.Found)
    {
        /// <summary>Most visits end like this, so that one object serves all.</summary>
        public static Found Value { get; } = new();
    }

    /// <summary>A text page.</summary>
    public sealed record Shown() : Outcome(OutcomeKind.Shown);

    /// <summary>No page has this address.</summary>
    public sealed record NoPage() : Outcome(OutcomeKind.NoPage);

    /// <summary>A required parameter is absent or empty.</summary>
    public sealed record Missing(string Parameter) : Outcome(OutcomeKind.Missing);

    /// <param name="Parameter">Null if the whole target is at fault.</param>
    public sealed record Malformed(string? Parameter, KeyFault Fault) : Outcome(OutcomeKind.Malformed);

    /// <summary>The address means a page or a record, but is spelt otherwise; a redirect leads to the right spelling.</summary>
    public sealed record NotCanonical() : Outcome(OutcomeKind.NotCanonical);

    /// <summary>There is no record with this ID.</summary>
    public sealed record Unknown() : Outcome(OutcomeKind.Unknown);

    /// <summary>The record is there but may not be seen. Visitors get the same answer as for an unknown one.</summary>
    public sealed record Hidden() : Outcome(OutcomeKind.Hidden);

    /// <summary>More than one record has this ID.</summary>
    public sealed record Ambiguous() : Outcome(OutcomeKind.Ambiguous);

    /// <summary>The page does not take this method.</summary>
    public sealed record NotAllowed() : Outcome(OutcomeKind.NotAllowed);

    /// <summary>The source did not answer.</summary>
    public sealed record Unavailable(SourceTrouble Trouble) : Outcome(OutcomeKind.Unavailable);

    /// <summary>Something went wrong in Jexa.</summary>
    public sealed record Failed() : Outcome(OutcomeKind.Failed);

    /// <summary>Deleted through Jexa.</summary>
    public sealed record Gone() : Outcome(OutcomeKind.Gone);

    /// <summary>Its key was changed through Jexa.</summary>
    public sealed record Moved() : Outcome(OutcomeKind.Moved);

    /// <summary>The change is saved.</summary>
    public sealed record Saved() : Outcome(OutcomeKind.Saved);

    /// <summary>What was sent does not satisfy the form. Nothing is changed.</summary>
    public sealed record Invalid() : Outcome(OutcomeKind.Invalid);

    /// <summary>The record has changed since it was read. Nothing is changed.</summary>
    public sealed record Conflict() : Outcome(OutcomeKind.Conflict);

    /// <summary>A rule of the source forbids it. Nothing is changed.</summary>
    public sealed record Refused() : Outcome(OutcomeKind.Refused);

    /// <summary>The form was used already.</summary>
    public sealed record Spent() : Outcome(OutcomeKind.Spent);

    /// <summary>It was not sent from a page of this app.</summary>
    public sealed record Untrusted() : Outcome(OutcomeKind.Untrusted);

    /// <summary>Another program draws the page: people are redirected there.</summary>
    public sealed record Elsewhere() : Outcome(OutcomeKind.Elsewhere);

    /// <summary>What was sent cannot be read.</summary>
    public sealed record Unreadable(Edits.SentFault Fault) : Outcome(OutcomeKind.Unreadable);
}
