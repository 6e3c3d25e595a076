namespace Jexa.Service.Proof;

/// <summary>A page as a probe's report names it.</summary>
/// <param name="Record">The record kind; empty for none.</param>
/// <param name="Line">Its line in the app file.</param>
public sealed record ProbedPage(string Name, string Record, int Line);
