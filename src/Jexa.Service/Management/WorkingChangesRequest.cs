namespace Jexa.Service.Management;

/// <summary>Named changes of the working copy. All of them are made, as one step, or none.</summary>
/// <param name="Label">What the step is called; made from the changes if null.</param>
public sealed record WorkingChangesRequest(IReadOnlyList<NamedChangeRequest> Changes, string? Label = null);
