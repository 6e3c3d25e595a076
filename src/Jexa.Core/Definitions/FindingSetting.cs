namespace Jexa.Core.Definitions;

/// <summary>What the app file says of a kind of finding.</summary>
/// <param name="On">The page, record or field (<c>RECORD.FIELD</c>) that it is about; null for all.</param>
/// <param name="Severity">What the findings are instead; null if they are not told at all.</param>
public sealed record FindingSetting(Written Code, Written? On, Severity? Severity)
{
    /// <summary>The words for a severity in the app file.</summary>
    public static IReadOnlyList<string> Words { get; } = ["warning", "hint", "none"];

    /// <summary>Reads the entries of <c>findings</c>.</summary>
    internal static List<FindingSetting> ReadAll(MappingReader app, FindingList findings) =>
        [
            .. app.Items("findings")
                .Select(item => MappingReader.Of(item, "an entry of “findings”", findings))
                .OfType<MappingReader>()
                .Select(entry => Read(entry, findings))
                .OfType<FindingSetting>(),
        ];

    /// <summary>Reads one entry; null, and reported, if it cannot be used.</summary>
    private static FindingSetting? Read(MappingReader entry, FindingList findings)
    {
        var (code, on, word) = (entry.RequiredText("code", "JX802"), entry.Text("on"), entry.RequiredText("as", "hint"));
        var because = entry.RequiredText("because", "“the reason”");
        entry.Finish();
        if (code is null || word is null || because is null)
            return null;
        if (FindingCodes.All.FirstOrDefault(one => one.Id == code.Value) is not { } known)
        {
            findings.AddUnknown(FindingCodes.UnknownWord, code, "finding", FindingCodes.All.Select(one => one.Id));
            return null;
        }

        if (!Words.Contains(word.Value))
        {
            findings.AddUnknown(FindingCodes.UnknownWord, word, "severity called", Words);
            return null;
        }

        if (known.Severity == Definitions.Severity.Error)
        {
            findings.Add(
                FindingCodes.UnknownWord,
                code.At,
                $"{code} is an error: the file makes no site as long as there is one.",
                "Correct what the finding says, and remove this entry.",
                found: code.Value,
                expected: "the code of a warning or hint"
            );
            return null;
        }

        return new FindingSetting(
            code,
            on,
            word.Value switch
            {
                "warning" => Definitions.Severity.Warning,
                "hint" => Definitions.Severity.Hint,
                _ => null,
            }
        );
    }
}
