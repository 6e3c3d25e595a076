namespace Jexa.Service.Management;

/// <param name="TakeMine">For each conflict, in order, whether the working copy's lines are taken; the file's otherwise.</param>
public sealed record WorkingMergeRequest(IReadOnlyList<bool> TakeMine);
