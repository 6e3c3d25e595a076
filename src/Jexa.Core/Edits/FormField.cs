using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>A field as a form asks for it, compiled.</summary>
/// <param name="Stored">The cell with its value as it is stored; -1 in the form of a new record.</param>
/// <param name="Typed">The cell with its value as its type; -1 in the form of a new record.</param>
/// <param name="Default">The first value in the form of a new record; empty for none.</param>
/// <param name="LeftToSource">If the form of a new record leaves it empty, the source fills it.</param>
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
    /// <summary>A default for dates and moments: the present one.</summary>
    public const string Now = "now";

    /// <summary>How a file is taken for it; null if it is not a file.</summary>
    public UploadPlan? Upload { get; init; }

    /// <summary>Whether its texts must be JSON.</summary>
    public bool IsJson { get; init; }

    /// <summary>Whether its whole numbers are seconds since 1970, which people write as moments.</summary>
    public bool IsEpoch { get; init; }

    /// <summary>The name of the input in a sent form.</summary>
    public string InputName => Name;

    /// <summary>Whether the value refers to a record that may not be seen. Visitors are told nothing of it.</summary>
    public bool IsWithheld(Row row) => StoredValue.IsWithheld(row, Typed, Stored);

    /// <summary>Whether an empty value can only be stored as an empty text.</summary>
    public bool KeepsEmptyText => !Column.Nullable && Type is FieldType.Text or FieldType.Any;
}
