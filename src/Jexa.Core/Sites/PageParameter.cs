using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A parameter of a page's path: its place in an address, and the field that it means.</summary>
/// <param name="Segment">The path segment, from 0; -1 in the query string.</param>
/// <param name="Field">The field it is compared with.</param>
/// <param name="Key">How its text is read.</param>
/// <param name="Required">Whether the page requires it.</param>
/// <param name="Many">Whether it may be given several times.</param>
/// <param name="Path">The way to the field; null if the field is the record's own, or there is none.</param>
/// <param name="IsEqual">Whether the record's field must equal it, so that a link can fill it from such a field.</param>
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
