using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>A field before and after a change, as it is stored. Of a secret field, only the fact that it changed.</summary>
public sealed record FieldChange(string Field, TypedValue Before, TypedValue After, bool IsSecret);
