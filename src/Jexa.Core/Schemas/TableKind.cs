namespace Jexa.Core.Schemas;

/// <summary>What a source calls it.</summary>
public enum TableKind
{
    /// <summary>A table.</summary>
    Table,

    /// <summary>A view.</summary>
    View,
}
