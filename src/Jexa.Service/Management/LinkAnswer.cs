namespace Jexa.Service.Management;

public sealed record LinkAnswer(string Page, string Address, string Url);
