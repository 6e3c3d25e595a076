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
