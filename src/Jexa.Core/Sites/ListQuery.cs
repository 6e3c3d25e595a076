using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A list as one visitor asks for it: its queries, and the arguments they begin with.</summary>
/// <param name="Signature">Differs between lists of other names, orders, filters and words, so that a place in one is none in
/// another.</param>
public sealed record ListQuery(
    ListWindows Windows,
    IPreparedQuery Count,
    IReadOnlyList<TypedValue> Arguments,
    int Size,
    string Signature
);
