namespace Jexa.Core.Addresses;

/// <summary>Why a request target is no address at all, whatever pages there are.</summary>
public enum TargetFault
{
    None,

    /// <summary>Neither a path nor an absolute URL: <c>*</c>, a host and port, the empty text.</summary>
    NotAPath,

    /// <summary>A segment is <c>.</c> or <c>..</c>, plainly or percent-encoded.</summary>
    DotSegment,

    /// <summary>
    /// A backslash, a control character, a blank, a <c>#</c> or a character outside ASCII stands there unencoded.
    /// </summary>
    ForbiddenCharacter,

    /// <summary>An address, but not one below the mount.</summary>
    OutsideMount,
}
