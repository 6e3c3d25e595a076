namespace Jexa.Core.Definitions;

/// <param name="Type">The type of the field, if the source does not say it.</param>
/// <param name="Secret">Never shown, traced or logged.</param>
/// <param name="Pattern">A regular expression for the whole text.</param>
/// <param name="MaxLength">The most characters in a text.</param>
/// <param name="SuchAs">An example, for visitors whose ID is malformed.</param>
/// <param name="RefersTo">The record kind whose key the field holds, if the source declares no foreign key.</param>
/// <param name="As">How the field is shown.</param>
/// <param name="Under">The folder of the pictures.</param>
/// <param name="Base">The URL before the names of pictures.</param>
/// <param name="Unit">Written after each value.</param>
/// <param name="Decimals">Digits after the decimal point.</param>
/// <param name="Choices">The label of each stored value.</param>
/// <param name="When">The field is shown only if these conditions hold for its record.</param>
public sealed record FieldDefinition(
    Written Name,
    Written? Label,
    Written? Type,
    bool Secret,
    Written? Pattern,
    int? MaxLength,
    Written? SuchAs,
    Written? RefersTo,
    Written? As,
    Written? Under,
    Written? Base,
    Written? Unit,
    int? Decimals,
    IReadOnlyList<ChoiceDefinition> Choices,
    IReadOnlyList<ConditionDefinition> When
)
{
    /// <summary>How forms ask for the field.</summary>
    public InputDefinition Input { get; init; } = InputDefinition.None;
}
