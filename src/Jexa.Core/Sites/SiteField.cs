using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A field of a record kind, as schema and app file together describe it.</summary>
/// <param name="Form">The form its texts have, where the app file declares one.</param>
/// <param name="Style">How its values are shown.</param>
/// <param name="When">The field is shown only where these hold for its record.</param>
public sealed record SiteField(
    string Name,
    string? Label,
    FieldType Type,
    ColumnSchema Column,
    bool Secret,
    TextForm Form,
    ValueStyle Style,
    IReadOnlyList<Condition> When
);
