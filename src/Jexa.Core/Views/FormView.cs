using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A form in one visit.</summary>
/// <param name="Outcome">The outcome's word.</param>
/// <param name="Action">The address to send it to.</param>
/// <param name="Contract">The sealed contract.</param>
/// <param name="Notice">A message above the form; null for none.</param>
/// <param name="Faults">First those of fields, in their order; then those of the whole form.</param>
/// <param name="Submit">The text of the button.</param>
/// <param name="Cancel">The link that leaves without saving.</param>
/// <param name="Row">The record as it is; null for a new one.</param>
/// <param name="Own">Writes the record's ID and address.</param>
/// <param name="Stored">The fields as JSON has them.</param>
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
    /// <summary>Members of a JSON body that are not accepted, as JSON Pointers.</summary>
    public IReadOnlyList<(string Pointer, string Text)> Strays { get; init; } = [];

    /// <summary>Fields that two people changed, and whose value stays; null if nobody has chosen yet.</summary>
    public IReadOnlyDictionary<string, string?> Undecided { get; init; } = new Dictionary<string, string?>();
}
