using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A named parameter of a record's own query.</summary>
/// <param name="Default">Its value if no page fills it; null if a page must.</param>
public sealed record QueryParameter(string Name, FieldType Type, TypedValue? Default);
