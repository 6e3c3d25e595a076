using Jexa.Core.Views;

namespace Jexa.Core.Bodies;

/// <summary>
/// One step in writing a body. A body is a tree of steps, made once: what is the same for every visit is encoded already, and
/// every name is resolved.
/// </summary>
public abstract record BodyStep
{
    /// <summary>HTML that is the same for every visit.</summary>
    public sealed record Literal(byte[] Html) : BodyStep;

    /// <summary>A field's value. It counts as shown if there is one.</summary>
    public sealed record Value(ViewColumn Column, BodyPlace Place) : BodyStep
    {
        /// <summary>What stands for an empty value: empty for the sign of the built-in pages, null for nothing.</summary>
        public string? WhenEmpty { get; init; }

        /// <summary>Whether it stands in a cell of a table, which is always there.</summary>
        public bool IsCell { get; init; }

        /// <summary>Whether the value's own link is only for the pointer.</summary>
        public bool IsQuiet { get; init; }

        /// <summary>Whether the value's own link is the link of the whole row.</summary>
        public bool IsWhole { get; init; }

        /// <summary>The label of the record, for the words of a picture; null for none.</summary>
        public TextPlan? Title { get; init; }
    }

    /// <summary>The picture of a field, with its address, size and words.</summary>
    /// <param name="Tag">The tag up to these attributes.</param>
    /// <param name="HasWords">Whether the body says the words itself.</param>
    /// <param name="HasSize">Whether the body says width or height itself.</param>
    /// <param name="WhenEmpty">The address of the picture that stands for none; null for nothing.</param>
    public sealed record Picture(Value Of, IReadOnlyList<BodyStep> Tag, bool HasWords, bool HasSize, string? WhenEmpty) : BodyStep
    {
        /// <summary>How wide the design shows it (HTML, <c>sizes</c>); null if the body does not say it.</summary>
        public string? Sizes { get; init; }
    }

    /// <summary>The label of the record in scope.</summary>
    public sealed record Label(TextPlan Text) : BodyStep;

    /// <summary>The attribute <c>href</c> of a link from a record to a page. Nothing if the record has none.</summary>
    /// <param name="Rest">What follows the address: more of the query string, and a fragment.</param>
    /// <param name="Counts">Whether the link alone is something shown.</param>
    public sealed record Link(LinkPlan Plan, string Rest, bool Counts) : BodyStep;

    /// <summary>Steps that are left out together if nothing in them is shown.</summary>
    public sealed record Group(IReadOnlyList<BodyStep> Steps) : BodyStep;

    /// <summary>Steps that stand only if something holds.</summary>
    /// <param name="Needs">True if all tests must hold; false if none may.</param>
    public sealed record If(IReadOnlyList<BodyTest> Tests, bool Needs, IReadOnlyList<BodyStep> Steps) : BodyStep;

    /// <summary>Steps for each record of a list or block.</summary>
    /// <param name="Block">The number of the block; -1 for the list.</param>
    /// <param name="Between">What stands between two records.</param>
    /// <param name="Element">The element of the pattern, in which a sentence stands if the block failed.</param>
    public sealed record Rows(int Block, IReadOnlyList<BodyStep> Pattern, byte[] Between, string Element) : BodyStep;

    /// <summary>A text that the page has by itself.</summary>
    /// <param name="Name">The field of a form, or of an order; empty for none.</param>
    public sealed record Own(BodyWord Word, int Block, string Name) : BodyStep;

    /// <summary>The words of a link that the page has by itself.</summary>
    public sealed record Words(BodyWord Word, int Block, string Name) : BodyStep;

    /// <summary>The attribute <c>href</c> of a link that the page has by itself.</summary>
    public sealed record OwnLink(BodyWord Word, int Block, string Name, bool Counts) : BodyStep;

    /// <summary>A part of the page as Jexa draws it.</summary>
    public sealed record Part(BodyPart What, int Block, string Name) : BodyStep;

    /// <summary>The form of the page: its address and what it carries around the steps.</summary>
    /// <param name="Open">The tag up to its attributes of Jexa.</param>
    /// <param name="Names">The names of its controls.</param>
    public sealed record Form(byte[] Open, IReadOnlyCollection<string> Names, IReadOnlyList<BodyStep> Steps) : BodyStep;

    /// <summary>A control of the form, or of the form that narrows a list.</summary>
    /// <param name="Element">Its tag.</param>
    /// <param name="Attributes">Its attributes in the body, each after a blank.</param>
    public sealed record Control(string Name, string Element, byte[] Attributes) : BodyStep
    {
        /// <summary>The type that the body gives an input; null if Jexa chooses it.</summary>
        public string? Type { get; init; }

        /// <summary>The value of a radio button; null for other controls.</summary>
        public string? Choice { get; init; }

        /// <summary>The options that the body gives a select: value, text; null if Jexa makes them.</summary>
        public IReadOnlyList<(string Value, string Text)>? Options { get; init; }

        /// <summary>Whether the body says where the faults of the field stand.</summary>
        public bool HasFaults { get; init; }

        /// <summary>Whether the body says where the help for the field stands.</summary>
        public bool HasHelp { get; init; }
    }
}
