namespace Jexa.Core.Definitions;

/// <summary>What forms ask of a field.</summary>
/// <param name="Required">It must be filled in, also where the source would take it empty.</param>
/// <param name="Min">The least number, or the first day or moment.</param>
/// <param name="Max">The greatest number, or the last day or moment.</param>
/// <param name="Help">A sentence beside the field.</param>
/// <param name="Default">What a new record's form begins with.</param>
/// <param name="Kept">Jexa fills the field itself: <c>created</c>, <c>changed</c> or <c>version</c>.</param>
public sealed record InputDefinition(
    Written? Required,
    Written? Min,
    Written? Max,
    Written? Help,
    Written? Default,
    Written? Kept
)
{
    public static InputDefinition None { get; } = new(null, null, null, null, null, null);
}
