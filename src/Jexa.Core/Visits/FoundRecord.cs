using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The record that an address names, or the answer if there is none.</summary>
/// <param name="Keys">The record's canonical key.</param>
internal readonly record struct FoundRecord(Row Row, TypedValue[] Keys, Answer? Refused)
{
    private readonly TypedValue[]? _asked;

    /// <summary>
    /// The keys from the URL; the record's own spelling may differ.
    /// </summary>
    public TypedValue[] Asked
    {
        get => _asked ?? Keys;
        init => _asked = value;
    }

    /// <summary>The ID texts that the address gives, in their canonical spelling.</summary>
    public string[] TextsOn(RecordPage page) => RecordFinder.TextsOf(page, Asked);
}
