namespace Jexa.Service.Management;

/// <summary>A run of lines that was changed in the working copy, in the file, or in both.</summary>
/// <param name="Line">Where it begins in the text that both came from, from 1.</param>
/// <param name="Conflict">Whether both changed these lines, and differently.</param>
public sealed record MergePartInfo(
    int Line,
    bool Conflict,
    IReadOnlyList<string> Before,
    IReadOnlyList<string> Mine,
    IReadOnlyList<string> Disk
);
