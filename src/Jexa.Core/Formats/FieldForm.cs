namespace Jexa.Core.Formats;

/// <summary>The form of a field's text, beyond its type.</summary>
public enum FieldForm
{
    /// <summary>As its type is written.</summary>
    Plain,

    /// <summary>Text with several lines.</summary>
    Long,

    /// <summary>Markdown (CommonMark). HTML in it is shown as text.</summary>
    Markdown,

    /// <summary>JSON, shown with one member a line.</summary>
    Json,

    /// <summary>A mail address.</summary>
    Mail,

    /// <summary>A web address. Only http and https become links.</summary>
    Web,

    /// <summary>The name of a picture.</summary>
    Picture,

    /// <summary>The name of a film.</summary>
    Video,

    /// <summary>The name of a sound recording.</summary>
    Audio,

    /// <summary>The name of any file, to be downloaded.</summary>
    File,

    /// <summary>What a player of another host is to show.</summary>
    Embed,

    /// <summary>A moment stored as whole seconds since 1970-01-01T00:00:00Z (IEEE Std 1003.1, section 4.19).</summary>
    Epoch,
}
