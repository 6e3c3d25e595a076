namespace Jexa.Core.Definitions;

/// <summary>How a form takes a file for a field.</summary>
/// <param name="IsOff">Forms take the name only.</param>
/// <param name="UpTo">The largest file, such as <c>5 MB</c>.</param>
/// <param name="Name">The beginning of the names of files, in which <c>{field}</c> stands for a value of the form.</param>
/// <param name="Kinds">The kinds that are taken; empty for all that the field can show.</param>
/// <param name="Several">Whether a form of a new record takes several files and makes a record of each.</param>
public sealed record UploadDefinition(bool IsOff, Written? UpTo, Written? Name, IReadOnlyList<Written> Kinds, bool Several)
{
    /// <summary>An upload of which the app file says nothing.</summary>
    public static UploadDefinition Usual { get; } = new(false, null, null, [], false);

    internal static UploadDefinition? Read(MappingReader field, FindingList findings)
    {
        switch (field.Value("upload"))
        {
            case null:
                return null;
            case ScalarNode { Text: var word }:
                if (word.Value != "none")
                    findings.AddUnknown(FindingCodes.UnknownWord, word, "way to take a file called", ["none"]);
                return Usual with { IsOff = true };
            case var node:
                if (MappingReader.Of(node, "“upload”", findings) is not { } upload)
                    return null;
                var read = new UploadDefinition(
                    false,
                    upload.Text("up_to"),
                    upload.Text("name"),
                    upload.Texts("kinds"),
                    upload.Flag("several")
                );
                upload.Finish();
                return read;
        }
    }
}
