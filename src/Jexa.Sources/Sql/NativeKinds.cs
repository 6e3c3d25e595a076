using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

internal static class NativeKinds
{
    /// <summary>The field type for a column of this kind.</summary>
    public static FieldType Field(this NativeKind kind) =>
        kind switch
        {
            NativeKind.Integer => FieldType.Integer,
            NativeKind.Decimal => FieldType.Decimal,
            NativeKind.Real => FieldType.Real,
            NativeKind.Boolean => FieldType.Boolean,
            NativeKind.Date => FieldType.Date,
            NativeKind.Timestamp or NativeKind.Moment => FieldType.Timestamp,
            NativeKind.Uuid => FieldType.Uuid,
            NativeKind.Bytes => FieldType.Bytes,
            _ => FieldType.Text,
        };
}
