namespace Jexa.Service.Traces;

public sealed record CandidateInfo(string Page, string Path, bool Won, string Reason);
