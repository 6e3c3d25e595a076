using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A field of a record kind, from the schema and the app file.</summary>
/// <param name="Form">The form of its texts, if the app file declares one.</param>
/// <param name="Style">How its values are shown.</param>
/// <param name="When">The field is shown only if these conditions hold for its record.</param>
public sealed record SiteField(
    string Name,
    string? Label,
    FieldType Type,
    ColumnSchema Column,
    bool Secret,
    TextForm Form,
    ValueStyle Style,
    IReadOnlyList<Condition> When
)
{
    /// <summary>How forms take a file for it; null if they take none.</summary>
    public UploadPlan? Upload { get; init; }
}
