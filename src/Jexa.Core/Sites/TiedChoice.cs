namespace Jexa.Core.Sites;

/// <summary>
/// A foreign key of several columns that a form asks for as one choice. If it may be empty, a column that must be filled keeps
/// its own input, and the choice must agree with it.
/// </summary>
/// <param name="Name">The name of its input.</param>
/// <param name="Entries">The fields of the foreign key, in its order.</param>
/// <param name="Own">The fields without an input of their own.</param>
/// <param name="Last">The field in whose place it is shown. Its faults are shown there.</param>
/// <param name="Reference">The records that can be chosen.</param>
/// <param name="Within">For each of the fields, the choices with a given value in it.</param>
public sealed record TiedChoice(
    string Name,
    string Label,
    IReadOnlyList<FormEntry> Entries,
    IReadOnlyList<FormEntry> Own,
    FormEntry Last,
    ReferenceChoices Reference,
    IReadOnlyList<ReferenceChoices> Within
)
{
    /// <summary>Whether something must be chosen.</summary>
    public bool IsRequired => Own.Any(entry => entry.Field.Rules.Required);
}
