using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

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
