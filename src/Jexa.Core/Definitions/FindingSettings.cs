namespace Jexa.Core.Definitions;

/// <summary>Gives findings the severity that the app file says for them.</summary>
/// <param name="definition">Null if the app file cannot be read: then there are no settings.</param>
public sealed class FindingSettings(AppDefinition? definition)
{
    private readonly HashSet<FindingSetting> _used = [];

    /// <summary>How many findings are not told.</summary>
    public int Silenced { get; private set; }

    /// <summary>The findings as they are to be told.</summary>
    public IReadOnlyList<Finding> Apply(IReadOnlyList<Finding> findings) =>
        definition is not { Settings.Count: > 0 }
            ? findings
            :
            [
                .. findings
                    .Select(finding => Of(finding.Code, finding.At, null) is { } code ? finding with { Code = code } : null)
                    .OfType<Finding>(),
            ];

    /// <summary>The code with the severity that the app file says for a finding at this place; null if it is not told.</summary>
    /// <param name="about">What a fault of the data is about, such as <c>bridge.photo</c>; null for other findings.</param>
    public FindingCode? Of(FindingCode code, Place at, string? about)
    {
        if (definition?.Settings.LastOrDefault(one => Fits(one, code, at, about)) is not { } setting)
            return code;
        _used.Add(setting);
        if (setting.Severity is { } severity)
            return code with { Severity = severity };
        Silenced++;
        return null;
    }

    /// <summary>What the app file says of findings that there are not.</summary>
    /// <param name="isLookedFor">Whether findings of a code were looked for at all.</param>
    public IEnumerable<Finding> Unused(Func<string, bool> isLookedFor) =>
        (definition?.Settings ?? [])
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

    private bool Fits(FindingSetting setting, FindingCode code, Place at, string? about) =>
        setting.Code.Value == code.Id
        && (
            setting.On is not { } on
            || definition!.PageAt(at) == on.Value
            || definition.RecordAt(at) == on.Value
            || about == on.Value
        );
}
