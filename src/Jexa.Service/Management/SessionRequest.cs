namespace Jexa.Service.Management;

public sealed record SessionRequest(string Code);
