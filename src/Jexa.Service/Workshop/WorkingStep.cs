namespace Jexa.Service.Workshop;

/// <summary>One step of a working copy: what undo takes back at once.</summary>
/// <param name="Label">What was done, in a few words.</param>
/// <param name="At">When it was done. The same thing done again without a pause belongs to the step.</param>
public sealed record WorkingStep(string Label, DateTimeOffset At, IReadOnlyList<TextSplice> Splices);
