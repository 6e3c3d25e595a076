namespace Jexa.Core.Views;

/// <summary>How one record of a block is chosen in the address and shown in place.</summary>
/// <param name="Parameter">The name in the query string.</param>
/// <param name="Key">Writes the ID of a row.</param>
/// <param name="Shape">How the chosen record is shown.</param>
/// <param name="Own">The address of the page, from its own record.</param>
public sealed record ChoiceShape(string Parameter, LinkFiller Key, DetailShape Shape, LinkPlan Own);
