namespace Jexa.Core.Visits;

/// <summary>What an address comes to before anything of it is read but its path.</summary>
internal enum MatchKind
{
    /// <summary>A page.</summary>
    Page,

    /// <summary>A page, but for a slash at the end.</summary>
    TrailingSlash,

    /// <summary>The root, which no page has: it leads to the home page.</summary>
    Home,

    /// <summary>Only pages that wait for their source; none if it is the root that waits.</summary>
    Waiting,

    /// <summary>Nothing.</summary>
    NoPage,

    /// <summary>Below Jexa's own segment.</summary>
    Reserved,

    /// <summary>Not below the mount.</summary>
    OutsideMount,

    /// <summary>No address at all.</summary>
    NoAddress,
}
