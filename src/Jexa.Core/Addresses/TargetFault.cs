namespace Jexa.Core.Addresses;

/// <summary>Why a request target is not an address.</summary>
public enum TargetFault
{
    /// <summary>The target can be matched.</summary>
    None,

    /// <summary>Neither a path nor an absolute URL: <c>*</c>, a host and port, the empty text.</summary>
    NotAPath,

    /// <summary>A segment is <c>.</c> or <c>..</c>, plainly or percent-encoded.</summary>
    DotSegment,

    /// <summary>A backslash, control character, blank, <c>#</c> or character outside ASCII is not encoded.</summary>
    ForbiddenCharacter,

    /// <summary>It is an address, but not below the mount.</summary>
    OutsideMount,
}
