using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A parameter of a page's path: where it stands in an address, and which field of the record it stands for.</summary>
/// <param name="Segment">The path segment, from 0; -1 in the query string.</param>
/// <param name="Field">The field it is compared with.</param>
/// <param name="Key">How its text is read.</param>
/// <param name="Required">Without it the page is not meant.</param>
/// <param name="Many">It may be given several times.</param>
/// <param name="Path">How the field is reached; null if it is the record's own, or no field at all.</param>
/// <param name="IsEqual">The record's field must equal it: a link can fill it from such a field.</param>
public sealed record PageParameter(
    string Name,
    int Segment,
    string Prefix,
    string Suffix,
    SiteField Field,
    KeyType Key,
    bool Required = true,
    bool Many = false,
    FieldPath? Path = null,
    bool IsEqual = true
);
