using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A list as one visitor asks for it: its queries, and their first arguments.</summary>
/// <param name="Signature">
/// Differs between lists with different names, orders, filters or words. So a place in one list cannot be used in another.
/// </param>
public sealed record ListQuery(
    ListWindows Windows,
    IPreparedQuery Count,
    IReadOnlyList<TypedValue> Arguments,
    int Size,
    string Signature
);
