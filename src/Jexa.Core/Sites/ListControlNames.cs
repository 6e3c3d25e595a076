namespace Jexa.Core.Sites;

/// <summary>The names of a list's own controls in its addresses.</summary>
public static class ListControlNames
{
    /// <summary>The words that are looked for.</summary>
    public const string Find = "find";

    /// <summary>The field that the list is ordered by; a minus before it for falling.</summary>
    public const string Order = "order";

    /// <summary>The records in one window.</summary>
    public const string Size = "size";

    /// <summary>Where a visitor comes from, in the address of a record.</summary>
    public const string From = "from";

    /// <summary>The controls that a link may say from outside of the list.</summary>
    public static IReadOnlyList<string> Open { get; } = [Find, Order, Size];
}
