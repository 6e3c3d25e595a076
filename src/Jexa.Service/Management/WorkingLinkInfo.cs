namespace Jexa.Service.Management;

/// <summary>A link in the preview, and what following it would come to.</summary>
/// <param name="Page">The page that has its address; empty for none.</param>
/// <param name="Address">Its address, without the prefix of the preview.</param>
/// <param name="Outcome">The outcome of a visit there.</param>
public sealed record WorkingLinkInfo(string Page, string Text, string Address, string Outcome, int Status);
