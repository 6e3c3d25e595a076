namespace Jexa.Core.Visits;

/// <summary>
/// One line of the table of outcomes. Console, OpenAPI document and both typed clients are made from it;
/// docs/outcomes.md has it in words.
/// </summary>
/// <param name="Word">Its word in traces, logs and the developer's eyes.</param>
/// <param name="Problems">How a program is told of it; none if it gets what it asked for.</param>
public sealed record OutcomeKind(string Word, OutcomeSide Side, params IReadOnlyList<ProblemKind> Problems)
{
    /// <summary>A list is shown.</summary>
    public static OutcomeKind Listed { get; } = new("listed", OutcomeSide.Good);

    /// <summary>A record is shown.</summary>
    public static OutcomeKind Found { get; } = new("found", OutcomeSide.Good);

    /// <summary>A text is shown.</summary>
    public static OutcomeKind Shown { get; } = new("shown", OutcomeSide.Good);

    /// <summary>The ID is not given.</summary>
    public static OutcomeKind Missing { get; } =
        new("missing", OutcomeSide.Visitor, ProblemKind.BadAddress) { Tells = OutcomeParts.Parameter | OutcomeParts.Links };

    /// <summary>The ID cannot be read.</summary>
    public static OutcomeKind Malformed { get; } =
        new("malformed", OutcomeSide.Visitor, ProblemKind.BadAddress) { Tells = OutcomeParts.Parameter | OutcomeParts.Links };

    /// <summary>Another spelling is the right one; a redirect leads there.</summary>
    public static OutcomeKind NotCanonical { get; } = new("not-canonical", OutcomeSide.Good);

    /// <summary>There is no record with this ID.</summary>
    public static OutcomeKind Unknown { get; } =
        new("unknown", OutcomeSide.Visitor, ProblemKind.Unknown) { Tells = OutcomeParts.Links };

    /// <summary>No page has this address.</summary>
    public static OutcomeKind NoPage { get; } = new("no-page", OutcomeSide.Visitor, ProblemKind.Unknown);

    /// <summary>The record is there but may not be seen.</summary>
    public static OutcomeKind Hidden { get; } =
        new("hidden", OutcomeSide.Visitor, ProblemKind.Unknown) { PublicWord = Unknown.Word };

    /// <summary>More than one record has this ID.</summary>
    public static OutcomeKind Ambiguous { get; } = new("ambiguous", OutcomeSide.Developer, ProblemKind.Failed);

    /// <summary>The page does not take this method.</summary>
    public static OutcomeKind NotAllowed { get; } = new("not-allowed", OutcomeSide.Visitor) { IsTold = true };

    /// <summary>The source did not answer.</summary>
    public static OutcomeKind Unavailable { get; } =
        new("unavailable", OutcomeSide.Developer, ProblemKind.Unavailable)
        {
            Tells = OutcomeParts.After,
            Means = "The source is away or slow: try again after the time given.",
        };

    /// <summary>Something went wrong in Jexa.</summary>
    public static OutcomeKind Failed { get; } = new("failed", OutcomeSide.Developer, ProblemKind.Failed);

    /// <summary>The record was deleted.</summary>
    public static OutcomeKind Gone { get; } =
        new("gone", OutcomeSide.Visitor, ProblemKind.Gone) { Tells = OutcomeParts.Links, Means = "The record was deleted." };

    /// <summary>The page has a new path; a redirect leads there.</summary>
    public static OutcomeKind Moved { get; } = new("moved", OutcomeSide.Good);

    /// <summary>The change is saved.</summary>
    public static OutcomeKind Saved { get; } = new("saved", OutcomeSide.Good);

    /// <summary>A value of the form cannot be taken.</summary>
    public static OutcomeKind Invalid { get; } =
        new("invalid", OutcomeSide.Visitor, ProblemKind.Invalid) { Tells = OutcomeParts.Faults | OutcomeParts.Change };

    /// <summary>The record was changed meanwhile.</summary>
    public static OutcomeKind Conflict { get; } =
        new("conflict", OutcomeSide.Visitor, ProblemKind.Conflict)
        {
            Tells = OutcomeParts.Change,
            Means = "The record has changed since its version was read.",
        };

    /// <summary>The source or a rule refuses the change.</summary>
    public static OutcomeKind Refused { get; } =
        new("refused", OutcomeSide.Visitor, ProblemKind.Refused, ProblemKind.WhichVersion)
        {
            Tells = OutcomeParts.Faults | OutcomeParts.Change,
        };

    /// <summary>Only forms for people can be used twice.</summary>
    public static OutcomeKind Spent { get; } = new("spent", OutcomeSide.Visitor);

    /// <summary>The form was not sent from a page of this app.</summary>
    public static OutcomeKind Untrusted { get; } =
        new("untrusted", OutcomeSide.Visitor, ProblemKind.Untrusted) { Tells = OutcomeParts.Faults | OutcomeParts.Change };

    /// <summary>The body cannot be read.</summary>
    public static OutcomeKind Unreadable { get; } =
        new("unreadable", OutcomeSide.Visitor, ProblemKind.TooLarge, ProblemKind.OtherType)
        {
            Tells = OutcomeParts.Faults | OutcomeParts.Change,
        };

    /// <summary>The answer leads to another page, such as a list.</summary>
    public static OutcomeKind Elsewhere { get; } = new("elsewhere", OutcomeSide.Good);

    /// <summary>The whole table.</summary>
    public static IReadOnlyList<OutcomeKind> All { get; } =
    [
        Listed,
        Found,
        Shown,
        Missing,
        Malformed,
        NotCanonical,
        Unknown,
        NoPage,
        Hidden,
        Ambiguous,
        NotAllowed,
        Unavailable,
        Failed,
        Gone,
        Moved,
        Saved,
        Invalid,
        Conflict,
        Refused,
        Spent,
        Untrusted,
        Unreadable,
        Elsewhere,
    ];

    /// <summary>Whether a program can be told of it. Answers 405 are told, but not described.</summary>
    public bool IsTold { get; init; } = Problems.Count > 0;

    /// <summary>What a program is told besides the word and a sentence.</summary>
    public OutcomeParts Tells { get; init; }

    /// <summary>A sentence for those who read a typed client. Null if the word says it all.</summary>
    public string? Means { get; init; }

    /// <summary>Its word in a visitor's eyes: a hidden record is an unknown one.</summary>
    public string PublicWord { get; init; } = Word;
}
