using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A form, as it stands in one visit.</summary>
/// <param name="Outcome">The outcome's word.</param>
/// <param name="Action">Where it is sent.</param>
/// <param name="Contract">Sealed.</param>
/// <param name="Notice">What the visitor must know first; null for nothing.</param>
/// <param name="Faults">Those of the fields in their order, then those of the whole.</param>
/// <param name="Submit">What the button says.</param>
/// <param name="Cancel">The way out without saving.</param>
/// <param name="Row">The record as it is; null for a new one.</param>
/// <param name="Own">Writes the record's ID and address.</param>
/// <param name="Stored">The fields as JSON tells them.</param>
public sealed record FormView(
    PageFrame Frame,
    string Page,
    string Outcome,
    int Status,
    string Heading,
    string Action,
    string Contract,
    string? Notice,
    IReadOnlyList<FormInput> Inputs,
    IReadOnlyList<FormFault> Faults,
    string Submit,
    PlainLink? Cancel,
    IReadOnlyList<PlainLink> Links,
    PlainLink? Back,
    Row? Row,
    LinkPlan? Own,
    IReadOnlyList<ViewColumn> Stored
) : PageView(Frame, Page)
{
    /// <summary>Members of a JSON body that cannot be taken, by JSON Pointer.</summary>
    public IReadOnlyList<(string Pointer, string Text)> Strays { get; init; } = [];

    /// <summary>
    /// Fields that two people changed, and whose value was chosen to stay; null if that is still to be chosen.
    /// </summary>
    public IReadOnlyDictionary<string, string?> Undecided { get; init; } = new Dictionary<string, string?>();
}
