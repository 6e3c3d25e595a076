namespace Jexa.Core.Definitions;

/// <summary>Collects findings. Whoever reports one goes on, so that all mistakes are found in one run.</summary>
public sealed class FindingList
{
    private const int MaxFindings = 500;

    private readonly List<Finding> _findings = [];

    /// <summary>The findings in the order of the file.</summary>
    public IReadOnlyList<Finding> All =>
        [.. _findings.Distinct().OrderBy(f => f.At.Line).ThenBy(f => f.At.Column).ThenBy(f => f.Code.Id)];

    /// <summary>Whether one of the findings is an error, so that there is no site.</summary>
    public bool HasErrors => _findings.Exists(finding => finding.Code.Severity == Severity.Error);

    /// <summary>Whether a finding of this code was added.</summary>
    public bool Has(FindingCode code) => _findings.Exists(finding => finding.Code == code);

    /// <summary>
    /// Adds a finding. <paramref name="found"/> and <paramref name="expected"/> are what tools show beside the sentence.
    /// </summary>
    public void Add(FindingCode code, Place at, string message, string remedy, string? found = null, string? expected = null) =>
        Add(new Finding(code, at, message, found, expected, null, remedy));

    /// <summary>Adds a finding.</summary>
    public void Add(Finding finding)
    {
        if (_findings.Count < MaxFindings)
            _findings.Add(finding);
    }

    /// <summary>Adds the findings of another list.</summary>
    public void Add(FindingList other) => _findings.AddRange(other._findings.Take(MaxFindings - _findings.Count));

    /// <summary>Reports a word that is not valid here, with the most similar valid one.</summary>
    public void AddUnknown(FindingCode code, Written word, string what, IEnumerable<string> valid)
    {
        var words = valid.ToList();
        var nearest = (code == FindingCodes.UnknownKey ? TriedWords.For(word.Value, words) : null)
            ?? Nearest.To(word.Value, words);
        var shown =
            words.Count == 0 ? "nothing: there is none" : string.Join(", ", words.Take(40)) + (words.Count > 40 ? ", …" : "");
        Add(
            new Finding(
                code,
                word.At,
                $"There is no {what} “{Cut(word.Value)}”.",
                Cut(word.Value),
                shown,
                nearest,
                nearest is not null ? $"Write {nearest}."
                    : words.Count == 0 ? $"Remove “{Cut(word.Value)}”."
                    : $"Use one of the words listed, or remove “{Cut(word.Value)}”."
            )
        );
    }

    private static string Cut(string text) => text.Length <= 80 ? text : text[..79] + "…";
}
