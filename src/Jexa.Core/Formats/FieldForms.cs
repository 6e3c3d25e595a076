namespace Jexa.Core.Formats;

/// <summary>What the forms of fields have in common.</summary>
public static class FieldForms
{
    /// <summary>Whether the field names a file.</summary>
    public static bool NamesFile(this FieldForm form) => form is FieldForm.Picture or FieldForm.File || form.IsRecording();

    /// <summary>Whether the field names something that is played.</summary>
    public static bool IsRecording(this FieldForm form) => form is FieldForm.Video or FieldForm.Audio;

    /// <summary>Whether the value is better shown in the whole width of a page.</summary>
    public static bool IsWide(this FieldForm form) =>
        form is FieldForm.Long or FieldForm.Markdown or FieldForm.Json or FieldForm.Picture or FieldForm.Video or FieldForm.Embed;

    /// <summary>Whether the value is shown by elements that cannot stand in a line of text, or that replace a sample.</summary>
    public static bool IsBlock(this FieldForm form) =>
        form is FieldForm.Markdown or FieldForm.Json or FieldForm.Embed || form.NamesFile();
}
