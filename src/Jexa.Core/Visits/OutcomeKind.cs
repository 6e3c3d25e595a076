namespace Jexa.Core.Visits;

/// <summary>
/// One line of the table of outcomes. Console, OpenAPI document and the tests of both clients are made from it;
/// docs/outcomes.md has it in words.
/// </summary>
/// <param name="Word">Its word in traces, logs and the developer's eyes.</param>
/// <param name="Problems">How a program is told of it; none if it gets what it asked for.</param>
public sealed record OutcomeKind(string Word, OutcomeSide Side, params IReadOnlyList<ProblemKind> Problems)
{
    public static OutcomeKind Listed { get; } = new("listed", OutcomeSide.Good);

    public static OutcomeKind Found { get; } = new("found", OutcomeSide.Good);

    public static OutcomeKind Shown { get; } = new("shown", OutcomeSide.Good);

    public static OutcomeKind Missing { get; } = new("missing", OutcomeSide.Visitor, ProblemKind.BadAddress);

    public static OutcomeKind Malformed { get; } = new("malformed", OutcomeSide.Visitor, ProblemKind.BadAddress);

    public static OutcomeKind NotCanonical { get; } = new("not-canonical", OutcomeSide.Good);

    public static OutcomeKind Unknown { get; } = new("unknown", OutcomeSide.Visitor, ProblemKind.Unknown);

    public static OutcomeKind NoPage { get; } = new("no-page", OutcomeSide.Visitor, ProblemKind.Unknown);

    public static OutcomeKind Hidden { get; } =
        new("hidden", OutcomeSide.Visitor, ProblemKind.Unknown) { PublicWord = Unknown.Word };

    public static OutcomeKind Ambiguous { get; } = new("ambiguous", OutcomeSide.Developer, ProblemKind.Failed);

    public static OutcomeKind NotAllowed { get; } = new("not-allowed", OutcomeSide.Visitor);

    public static OutcomeKind Unavailable { get; } = new("unavailable", OutcomeSide.Developer, ProblemKind.Unavailable);

    public static OutcomeKind Failed { get; } = new("failed", OutcomeSide.Developer, ProblemKind.Failed);

    public static OutcomeKind Gone { get; } = new("gone", OutcomeSide.Visitor, ProblemKind.Gone);

    public static OutcomeKind Moved { get; } = new("moved", OutcomeSide.Good);

    public static OutcomeKind Saved { get; } = new("saved", OutcomeSide.Good);

    public static OutcomeKind Invalid { get; } = new("invalid", OutcomeSide.Visitor, ProblemKind.Invalid);

    public static OutcomeKind Conflict { get; } = new("conflict", OutcomeSide.Visitor, ProblemKind.Conflict);

    public static OutcomeKind Refused { get; } =
        new("refused", OutcomeSide.Visitor, ProblemKind.Refused, ProblemKind.WhichVersion);

    /// <summary>Only forms for people can be used twice.</summary>
    public static OutcomeKind Spent { get; } = new("spent", OutcomeSide.Visitor);

    public static OutcomeKind Untrusted { get; } = new("untrusted", OutcomeSide.Visitor, ProblemKind.Untrusted);

    public static OutcomeKind Unreadable { get; } =
        new("unreadable", OutcomeSide.Visitor, ProblemKind.TooLarge, ProblemKind.OtherType);

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

    /// <summary>Its word in a visitor's eyes: a hidden record is an unknown one.</summary>
    public string PublicWord { get; init; } = Word;
}
