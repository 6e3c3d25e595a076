using Jexa.Core.Edits;
using Jexa.Core.Sites;

namespace Jexa.Core.Contracts;

/// <summary>A field that a form asks for.</summary>
/// <param name="Reference">The kind of record it leads to; null if it leads to none.</param>
/// <param name="MustBeGiven">A new record needs it, and neither a default nor the address fills it.</param>
public sealed record AskedContract(FormField Field, ValueKind Kind, SiteRecord? Reference, bool MustBeGiven)
{
    /// <summary>Whether it can be left empty.</summary>
    public bool IsNullable => !Field.Rules.Required && !(Field.Input == InputKind.Boolean && !Field.Column.Nullable);
}
