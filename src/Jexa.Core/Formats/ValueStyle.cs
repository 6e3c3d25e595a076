namespace Jexa.Core.Formats;

/// <summary>How the values of a field are shown.</summary>
/// <param name="Unit">Written after each value; null for none.</param>
/// <param name="Decimals">Digits after the decimal point; null for as many as the value has.</param>
/// <param name="Choices">The label of each stored value, by its canonical text.</param>
/// <param name="Files">Where the files are; null if the field names none.</param>
public sealed record ValueStyle(
    Conventions Conventions,
    FieldForm Form,
    string? Unit,
    int? Decimals,
    IReadOnlyDictionary<string, string> Choices,
    FilePlace? Files
)
{
    /// <summary>The player that shows the value; null for none.</summary>
    public PlayerAddress? Player { get; init; }

    /// <summary>The style of a value of which the app file says nothing, with the default conventions.</summary>
    public static ValueStyle Plain { get; } = Of(Conventions.Default);

    /// <summary>The style of a value of which the app file says nothing, with these conventions.</summary>
    public static ValueStyle Of(Conventions conventions) =>
        new(conventions, FieldForm.Plain, null, null, new Dictionary<string, string>(), null);
}
