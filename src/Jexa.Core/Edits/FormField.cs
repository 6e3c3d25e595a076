using System.Text.RegularExpressions;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>What a field is asked by.</summary>
public enum InputKind
{
    Text,

    /// <summary>Text of several lines.</summary>
    LongText,
    Whole,
    Number,

    /// <summary>Yes or no; one that may be empty is a choice of three.</summary>
    Truth,
    Date,
    Moment,

    /// <summary>One of a few values that are known beforehand.</summary>
    Choice,

    /// <summary>Another record, by its label.</summary>
    Reference,

    /// <summary>The name of a picture, which is shown beside it.</summary>
    Picture,

    /// <summary>Never shown; left empty it stays as it is.</summary>
    Secret,
}

/// <summary>What a value must satisfy before anything is written.</summary>
/// <param name="Least">The least number.</param>
/// <param name="First">The first moment, or day at midnight.</param>
/// <param name="Precision">The most digits of a decimal.</param>
/// <param name="Scale">Its most digits behind the point.</param>
/// <param name="Pattern">What a whole text matches.</param>
/// <param name="PatternText">The same, as browsers read it.</param>
/// <param name="Example">A text that matches.</param>
public sealed record FieldRules(
    bool Required,
    int? MaxLength,
    decimal? Least,
    decimal? Most,
    DateTime? First,
    DateTime? Last,
    int? Precision,
    int? Scale,
    Regex? Pattern,
    string? PatternText,
    string? Example
)
{
    /// <summary>Every value is taken.</summary>
    public static FieldRules None { get; } = new(false, null, null, null, null, null, null, null, null, null, null);
}

/// <summary>A value that can be chosen.</summary>
/// <param name="Value">Its canonical text.</param>
public sealed record FieldChoice(string Value, string Label);

/// <summary>A field as a form asks for it, compiled.</summary>
/// <param name="Stored">Where its value stands in a row of the form's load, as it is stored; -1 in the form of a new
/// record.</param>
/// <param name="Typed">Where it stands read as its type; -1 in the form of a new record.</param>
/// <param name="Default">What a new record's form begins with; empty for nothing.</param>
/// <param name="LeftToSource">Where a new record's form leaves it empty, the source fills it.</param>
public sealed record FormField(
    string Name,
    string Label,
    string? Help,
    InputKind Input,
    FieldType Type,
    ColumnSchema Column,
    Conventions Conventions,
    FieldRules Rules,
    IReadOnlyList<FieldChoice> Choices,
    bool Secret,
    int Stored,
    int Typed,
    string Default,
    bool LeftToSource
)
{
    /// <summary>What a default of a date can be besides a date.</summary>
    public const string Now = "now";

    /// <summary>Whether its texts must be JSON.</summary>
    public bool IsJson { get; init; }

    /// <summary>Whether its whole numbers are seconds since 1970, and people write them as moments.</summary>
    public bool IsEpoch { get; init; }

    /// <summary>What the text of an input is called where a form is sent.</summary>
    public string InputName => Name;

    /// <summary>Whether a record's value leads to a record that may not be seen: the visitor is told nothing of it.</summary>
    public bool IsWithheld(Row row) => StoredValue.IsWithheld(row, Typed, Stored);

    /// <summary>Whether “nothing” can be kept as an empty text only.</summary>
    public bool KeepsEmptyText => !Column.Nullable && Type is FieldType.Text or FieldType.Any;
}
