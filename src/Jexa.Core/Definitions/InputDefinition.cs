namespace Jexa.Core.Definitions;

/// <summary>How forms ask for a field.</summary>
/// <param name="Required">Whether it must be filled in, even if the source accepts an empty value.</param>
/// <param name="Min">The least number, or the first day or moment.</param>
/// <param name="Max">The greatest number, or the last day or moment.</param>
/// <param name="Help">A sentence beside the input.</param>
/// <param name="Default">The first value in the form of a new record.</param>
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
    /// <summary>An input of which the app file says nothing.</summary>
    public static InputDefinition None { get; } = new(null, null, null, null, null, null);
}
