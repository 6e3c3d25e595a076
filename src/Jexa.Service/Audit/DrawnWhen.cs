namespace Jexa.Service.Audit;

/// <summary>When an audit draws pages with a browser.</summary>
public enum DrawnWhen
{
    /// <summary>If the plain list has no links to records, and has scripts.</summary>
    Auto,

    /// <summary>In any case.</summary>
    Always,

    /// <summary>Not at all.</summary>
    Never,
}
