namespace Jexa.Service.Management;

public sealed record CandidateInfo(string Page, string Path, bool Won, string Reason);
