namespace Jexa.Core.Definitions;

/// <summary>Gives findings the severity that the app file says for them.</summary>
public sealed class FindingSettings(IReadOnlyList<FindingSetting> settings)
{
    private readonly HashSet<FindingSetting> _used = [];

    /// <summary>The findings of an app file as they are to be told.</summary>
    public IReadOnlyList<Finding> Apply(IReadOnlyList<Finding> findings, AppDefinition? definition) =>
        settings.Count == 0
            ? findings
            :
            [
                .. findings
                    .Select(finding =>
                        Of(finding.Code, definition?.PageAt(finding.At), definition?.RecordAt(finding.At)) is { } code
                            ? finding with
                            {
                                Code = code,
                            }
                            : null
                    )
                    .OfType<Finding>(),
            ];

    /// <summary>The code with the severity that the app file says; null if the finding is not told.</summary>
    /// <param name="names">What the finding is about: a page, a record, a field as <c>RECORD.FIELD</c>.</param>
    public FindingCode? Of(FindingCode code, params IReadOnlyList<string?> names)
    {
        if (
            settings.LastOrDefault(one => one.Code.Value == code.Id && (one.On is null || names.Contains(one.On.Value)))
            is not { } setting
        )
            return code;
        _used.Add(setting);
        return setting.Severity is { } severity ? code with { Severity = severity } : null;
    }

    /// <summary>What the app file says of findings that there are not.</summary>
    /// <param name="isLookedFor">Whether findings of a code were looked for at all.</param>
    public IEnumerable<Finding> Unused(Func<string, bool> isLookedFor) =>
        settings
            .Where(setting => !_used.Contains(setting) && isLookedFor(setting.Code.Value))
            .Select(setting => new Finding(
                FindingCodes.SettingForNothing,
                setting.Code.At,
                $"“findings” has an entry for {setting.Code}{(setting.On is { } on ? $" on “{on}”" : "")}, and there is no such "
                    + "finding.",
                setting.Code.Value,
                null,
                null,
                "Remove the entry: what it was for is gone."
            ));
}
