namespace Jexa.Core.Guidance;

/// <summary>What a name at a place of an app file is the name of.</summary>
public enum NameKind
{
    /// <summary>A page.</summary>
    Page,

    /// <summary>A record kind.</summary>
    Record,

    /// <summary>A source.</summary>
    Source,

    /// <summary>A table or view: SOURCE.TABLE.</summary>
    Table,

    /// <summary>A field of a record kind.</summary>
    Field,

    /// <summary>A parameter of a page.</summary>
    Parameter,
}
