namespace Jexa.Core.Formats;

/// <summary>What a field's text is, beyond its type.</summary>
public enum FieldForm
{
    Plain,

    /// <summary>Text of several lines.</summary>
    Long,

    /// <summary>Markdown (CommonMark); markup of HTML in it is shown, not obeyed.</summary>
    Markdown,

    /// <summary>JSON, shown with its members one below the other.</summary>
    Json,

    /// <summary>A mail address.</summary>
    Mail,

    /// <summary>An address of the web; only http and https lead anywhere.</summary>
    Web,

    /// <summary>The name of a picture.</summary>
    Picture,

    /// <summary>A moment kept as whole seconds since 1970-01-01T00:00:00Z (IEEE Std 1003.1, section 4.19).</summary>
    Epoch,
}

/// <summary>How a field's values are shown.</summary>
/// <param name="Unit">Written behind each value; null for none.</param>
/// <param name="Decimals">Digits behind the decimal mark; null for as many as there are.</param>
/// <param name="Choices">What stands for each stored value, by its canonical text.</param>
/// <param name="Pictures">Where a picture's file is; null where the field is none.</param>
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

/// <summary>
/// Where the pictures that a field names are: exactly one of the two, or neither where the field holds a whole URL.
/// </summary>
/// <param name="Folder">The folder, whole.</param>
/// <param name="Base">The URL that names are put behind, ending in a slash.</param>
public sealed record PicturePlace(string? Folder, Uri? Base);
