using Jexa.Core.Values;

namespace Jexa.Core.Definitions;

/// <summary>What the app file says of one field, and how that is read. A new option of fields has its property here.</summary>
public sealed record FieldDefinition
{
    private static readonly string[] KeptWords = ["created", "changed", "version"];

    /// <summary>The field's name in its record.</summary>
    public required Written Name { get; init; }

    /// <summary>The words before its value. Null if they are made from its name.</summary>
    public required Written? Label { get; init; }

    /// <summary>The type of the field, if the source does not say it.</summary>
    public required Written? Type { get; init; }

    /// <summary>Never shown, traced or logged.</summary>
    public required bool Secret { get; init; }

    /// <summary>A regular expression for the whole text.</summary>
    public required Written? Pattern { get; init; }

    /// <summary>The most characters in a text.</summary>
    public required int? MaxLength { get; init; }

    /// <summary>An example, for visitors whose ID is malformed.</summary>
    public required Written? SuchAs { get; init; }

    /// <summary>The record kind whose key the field holds, if the source declares no foreign key.</summary>
    public required Written? RefersTo { get; init; }

    /// <summary>How the field is shown.</summary>
    public required Written? As { get; init; }

    /// <summary>The address of the player that shows the value.</summary>
    public required Written? Player { get; init; }

    /// <summary>The folder of the files.</summary>
    public required Written? Under { get; init; }

    /// <summary>The URL before the names of files.</summary>
    public required Written? Base { get; init; }

    /// <summary>How forms take a file for it; null if the app file does not say it.</summary>
    public required UploadDefinition? Upload { get; init; }

    /// <summary>Written after each value.</summary>
    public required Written? Unit { get; init; }

    /// <summary>Digits after the decimal point.</summary>
    public required int? Decimals { get; init; }

    /// <summary>The label of each stored value.</summary>
    public required IReadOnlyList<ChoiceDefinition> Choices { get; init; }

    /// <summary>The field is shown only if these conditions hold for its record.</summary>
    public required IReadOnlyList<ConditionDefinition> When { get; init; }

    /// <summary>How forms ask for the field.</summary>
    public required InputDefinition Input { get; init; }

    /// <summary>Reads a field from its place in the app file.</summary>
    internal static FieldDefinition Read(Written name, MappingReader field, FindingList findings)
    {
        var type = field.Text("type");
        if (type is not null)
            CheckType(type, findings);
        return new FieldDefinition
        {
            Name = name,
            Label = field.Text("label"),
            Type = type,
            Secret = field.Flag("secret"),
            Pattern = field.Text("pattern"),
            MaxLength = field.Number("max_length", 1, 4096),
            SuchAs = field.Text("such_as"),
            RefersTo = field.Text("refers_to"),
            As = field.Text("as"),
            Player = field.Text("player"),
            Under = field.Text("under"),
            Base = field.Text("base"),
            Upload = UploadDefinition.Read(field, findings),
            Unit = field.Text("unit"),
            Decimals = field.Number("decimals", 0, 12),
            Choices = ReadChoices(field, findings),
            When = ConditionReader.Read(field, "when", findings),
            Input = ReadInput(field, findings),
        };
    }

    /// <summary>Whether the word is a type of fields; reported if it is not.</summary>
    internal static bool CheckType(Written type, FindingList findings)
    {
        if (FieldTypes.TryParse(type.Value, out _))
            return true;
        findings.AddUnknown(FindingCodes.UnknownWord, type, "field type", FieldTypes.Words);
        return false;
    }

    private static InputDefinition ReadInput(MappingReader field, FindingList findings)
    {
        var kept = field.Text("kept");
        if (kept is not null && !KeptWords.Contains(kept.Value))
            findings.AddUnknown(FindingCodes.UnknownWord, kept, "thing that Jexa keeps in a field called", KeptWords);
        var required = field.Text("required");
        if (required is not null and not { Value: "true" or "false" })
            findings.AddUnknown(FindingCodes.UnknownWord, required, "answer", ["true", "false"]);
        return new InputDefinition(
            required,
            field.Text("min"),
            field.Text("max"),
            field.Text("help"),
            field.Text("default"),
            kept
        );
    }

    private static List<ChoiceDefinition> ReadChoices(MappingReader field, FindingList findings)
    {
        var choices = new List<ChoiceDefinition>();
        if (field.Value("choices") is not { } node || MappingReader.Of(node, "“choices”", findings) is not { } section)
            return choices;
        foreach (var (value, label) in section.Named)
            if (MappingReader.AsText(label, value.Value, findings) is { } text)
                choices.Add(new ChoiceDefinition(value, text));
        return choices;
    }
}
