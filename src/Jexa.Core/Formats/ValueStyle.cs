namespace Jexa.Core.Formats;

/// <summary>How a field's values are shown.</summary>
/// <param name="Unit">Written behind each value; null for none.</param>
/// <param name="Decimals">Digits behind the decimal mark; null for as many as there are.</param>
/// <param name="Choices">What stands for each stored value, by its canonical text.</param>
/// <param name="Pictures">Where a picture's file is; null if the field is none.</param>
public sealed record ValueStyle(
    Conventions Conventions,
    FieldForm Form,
    string? Unit,
    int? Decimals,
    IReadOnlyDictionary<string, string> Choices,
    PicturePlace? Pictures
)
{
    public static ValueStyle Plain { get; } = Of(Conventions.Default);

    public static ValueStyle Of(Conventions conventions) =>
        new(conventions, FieldForm.Plain, null, null, new Dictionary<string, string>(), null);
}
