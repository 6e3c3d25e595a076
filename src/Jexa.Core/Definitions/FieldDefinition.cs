namespace Jexa.Core.Definitions;

/// <param name="Type">The type to read the field as, where the source does not say it.</param>
/// <param name="Secret">Never shown, traced or logged.</param>
/// <param name="Pattern">A regular expression that every text of the field matches whole.</param>
/// <param name="MaxLength">The most characters a text of the field has.</param>
/// <param name="SuchAs">An example, shown to visitors whose ID is malformed.</param>
/// <param name="RefersTo">The record kind whose key the field holds, where the source declares no foreign key.</param>
/// <param name="As">How the field is shown.</param>
/// <param name="Under">The folder that pictures lie in.</param>
/// <param name="Base">The URL that pictures' names are put behind.</param>
/// <param name="Unit">Written behind each value.</param>
/// <param name="Decimals">Digits behind the decimal mark.</param>
/// <param name="Choices">What stands for each stored value.</param>
/// <param name="When">The field is shown only where these hold for its record.</param>
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
    /// <summary>What forms ask of the field.</summary>
    public InputDefinition Input { get; init; } = InputDefinition.None;
}
