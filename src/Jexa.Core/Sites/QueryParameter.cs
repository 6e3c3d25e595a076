using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A named parameter of a record's own query.</summary>
/// <param name="Default">What fills it where no page does; null if a page must.</param>
public sealed record QueryParameter(string Name, FieldType Type, TypedValue? Default);
