using Jexa.Core.Edits;
using Jexa.Core.Sites;

namespace Jexa.Core.Contracts;

/// <summary>A field that a form asks for.</summary>
/// <param name="Reference">The record kind that it refers to; null for none.</param>
/// <param name="MustBeGiven">Whether a new record needs it, and neither a default nor the address fills it.</param>
public sealed record AskedContract(FormField Field, ValueKind Kind, SiteRecord? Reference, bool MustBeGiven)
{
    /// <summary>Whether it may be empty.</summary>
    public bool IsNullable => !Field.Rules.Required && !(Field.Input == InputKind.Boolean && !Field.Column.Nullable);
}
