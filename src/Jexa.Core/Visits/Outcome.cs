using Jexa.Core.Keys;
using Jexa.Core.Sources;

namespace Jexa.Core.Visits;

/// <summary>How one visit ended: exactly one of a closed set.</summary>
public abstract record Outcome
{
    private Outcome(string word) => Word = word;

    /// <summary>The words of all outcomes.</summary>
    public static IReadOnlyList<string> Words { get; } =
    [
        "listed",
        "found",
        "shown",
        "no-page",
        "missing",
        "malformed",
        "not-canonical",
        "unknown",
        "hidden",
        "ambiguous",
        "not-allowed",
        "unavailable",
        "failed",
        "gone",
        "moved",
        "saved",
        "invalid",
        "conflict",
        "refused",
        "spent",
        "untrusted",
        "unreadable",
        "elsewhere",
    ];

    /// <summary>The outcome's word in traces, logs and the developer's eyes.</summary>
    public string Word { get; }

    /// <summary>The outcome's word in a visitor's eyes: a hidden record is an unknown one.</summary>
    public virtual string PublicWord => Word;

    /// <summary>Whether the visitor got what the address stands for, if need be under its canonical spelling.</summary>
    public virtual bool IsGood => false;

    public sealed override string ToString() => Word;

    public sealed record Listed() : Outcome("listed")
    {
        public override bool IsGood => true;
    }

    public sealed record Found() : Outcome("found")
    {
        /// <summary>What visits come to most is not made anew for each.</summary>
        public static Found Value { get; } = new();

        public override bool IsGood => true;
    }

    /// <summary>A text of the app's own.</summary>
    public sealed record Shown() : Outcome("shown")
    {
        public override bool IsGood => true;
    }

    public sealed record NoPage() : Outcome("no-page");

    /// <summary>A required parameter is absent or empty.</summary>
    public sealed record Missing(string Parameter) : Outcome("missing");

    /// <param name="Parameter">Null where the whole target is at fault.</param>
    public sealed record Malformed(string? Parameter, KeyFault Fault) : Outcome("malformed");

    public sealed record NotCanonical() : Outcome("not-canonical")
    {
        public override bool IsGood => true;
    }

    public sealed record Unknown() : Outcome("unknown");

    public sealed record Hidden() : Outcome("hidden")
    {
        public override string PublicWord => "unknown";
    }

    public sealed record Ambiguous() : Outcome("ambiguous");

    public sealed record NotAllowed() : Outcome("not-allowed");

    public sealed record Unavailable(SourceTrouble Trouble) : Outcome("unavailable");

    public sealed record Failed() : Outcome("failed");

    /// <summary>Deleted through Jexa.</summary>
    public sealed record Gone() : Outcome("gone");

    /// <summary>Its key was changed through Jexa.</summary>
    public sealed record Moved() : Outcome("moved")
    {
        public override bool IsGood => true;
    }

    public sealed record Saved() : Outcome("saved")
    {
        public override bool IsGood => true;
    }

    /// <summary>What was sent does not satisfy the form; nothing is changed.</summary>
    public sealed record Invalid() : Outcome("invalid");

    /// <summary>The record has changed since it was read; nothing is changed.</summary>
    public sealed record Conflict() : Outcome("conflict");

    /// <summary>A rule of the source forbids it; nothing is changed.</summary>
    public sealed record Refused() : Outcome("refused");

    /// <summary>The form was used already.</summary>
    public sealed record Spent() : Outcome("spent");

    /// <summary>It was sent from elsewhere than a page of this app.</summary>
    public sealed record Untrusted() : Outcome("untrusted");

    /// <summary>Another program draws the page: a person is led there.</summary>
    public sealed record Elsewhere() : Outcome("elsewhere")
    {
        public override bool IsGood => true;
    }

    /// <summary>What was sent cannot be read at all.</summary>
    public sealed record Unreadable(Edits.SentFault Fault) : Outcome("unreadable");
}
