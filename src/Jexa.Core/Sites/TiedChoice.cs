namespace Jexa.Core.Sites;

/// <summary>
/// A foreign key of several columns that a form asks for as one choice. Where no record need be chosen, a column that says
/// something by itself keeps its own input, and the choice must agree with it.
/// </summary>
/// <param name="Name">The name of its input.</param>
/// <param name="Entries">The fields of the foreign key, in its order.</param>
/// <param name="Own">Those that only the choice fills.</param>
/// <param name="Last">The field in whose place it stands, and at which its faults are said.</param>
/// <param name="Reference">The records that can be chosen.</param>
/// <param name="Within">For each of the fields, the records that have a given value in it.</param>
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
    /// <summary>Whether it must be made.</summary>
    public bool IsRequired => Own.Any(entry => entry.Field.Rules.Required);
}
